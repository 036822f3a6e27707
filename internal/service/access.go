package service

import (
	"context"
	"crypto/subtle"
	"fmt"
	"net"
	"net/http"
	"net/url"
	"reflect"
	"strconv"
	"strings"
	"time"

	"github.com/labstack/echo/v5"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/promauto"

	"unicausa/internal/access"
	"unicausa/internal/store"
)

// What the service refused and whom it let in, for /metrics.
var (
	refusals = promauto.NewCounterVec(prometheus.CounterOpts{Name: "unicausa_refused_total", Help: "Requests that were refused, by reason."}, []string{"reason"})
	masked   = promauto.NewCounter(prometheus.CounterOpts{Name: "unicausa_masked_total", Help: "Secrets that came unmasked and were masked."})
	signIns  = promauto.NewCounterVec(prometheus.CounterOpts{Name: "unicausa_sign_ins_total", Help: "Consoles that were signed in, by what with."}, []string{"with"})
)

// policy is what a page may load; who may frame it stands behind.
const policy = "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; font-src 'self'; connect-src 'self'; " +
	"manifest-src 'self'; frame-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors "

// protected are the headers of every answer: nothing of it runs, is framed or is taken for
// something else elsewhere.
var protected = map[string]string{
	"Content-Security-Policy":      policy + "'none'",
	"X-Content-Type-Options":       "nosniff",
	"X-Frame-Options":              "DENY",
	"Referrer-Policy":              "no-referrer",
	"Cross-Origin-Opener-Policy":   "same-origin",
	"Cross-Origin-Resource-Policy": "same-origin",
}

// framed lets our own pages frame an answer, which is a page of its own.
func framed(h http.Header) {
	h.Set("Content-Security-Policy", policy+"'self'")
	h.Set("X-Frame-Options", "SAMEORIGIN")
}

// requestedBy is a header that no form of another page can send.
const requestedBy = "X-Requested-By"

// refused ends a request with a status, and is counted.
func refused(status int, reason, format string, args ...any) error {
	refusals.WithLabelValues(reason).Inc()
	return echo.NewHTTPError(status, fmt.Sprintf(format, args...))
}

// fenced refuses what another page's script or form may have sent: requests for a host that
// the service does not go by, from another origin, or that change something in a way that
// a form can.
func (s *Service) fenced(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		for name, value := range protected {
			c.Response().Header().Set(name, value)
		}
		if !s.knownHost(r.Host) {
			return refused(http.StatusMisdirectedRequest, "host", "the service does not go by the name %q: start it with --host %s if it should", r.Host, hostOf(r.Host))
		}
		if origin := r.Header.Get("Origin"); origin != "" && !sameOrigin(origin, r.Host) {
			return refused(http.StatusForbidden, "origin", "requests of pages of %s are not answered", origin)
		}
		if site := r.Header.Get("Sec-Fetch-Site"); site != "" && site != "same-origin" && site != "none" && strings.HasPrefix(r.URL.Path, "/api/") {
			return refused(http.StatusForbidden, "origin", "requests of pages of other sites are not answered")
		}
		if changes(r) {
			media, _, _ := strings.Cut(r.Header.Get("Content-Type"), ";")
			media = strings.TrimSpace(media)
			if !strings.EqualFold(media, "application/json") && r.Header.Get(requestedBy) == "" {
				return refused(http.StatusUnsupportedMediaType, "form", "send JSON as application/json, and with anything else the header %s, whatever it says", requestedBy)
			}
		}
		return next(c)
	}
}

func changes(r *http.Request) bool {
	return r.Method != http.MethodGet && r.Method != http.MethodHead && r.Method != http.MethodOptions
}

func hostOf(address string) string {
	if host, _, err := net.SplitHostPort(address); err == nil {
		return host
	}
	return strings.Trim(address, "[]")
}

// knownHost reports whether a request's host is one of the service's: a loopback address,
// the one that it listens on, or a name that it was given.
func (s *Service) knownHost(address string) bool {
	host := hostOf(address)
	if ip := net.ParseIP(host); ip != nil && ip.IsLoopback() || strings.EqualFold(host, "localhost") {
		return true
	}
	for _, name := range s.config.Hosts {
		if strings.EqualFold(host, name) {
			return true
		}
	}
	return false
}

func sameOrigin(origin, host string) bool {
	u, err := url.Parse(origin)
	return err == nil && strings.EqualFold(u.Host, host)
}

// cookieName is the console's cookie, signedIn how long it lasts, keyTime how long a key
// for it is good.
const (
	cookieName = "unicausa"
	signedIn   = 30 * 24 * time.Hour
	keyTime    = 24 * time.Hour
)

// personKey is the key of who asks in a request's context.
type personKey struct{}

// who is who asks. Without a person, nobody does: the path is open to all.
func who(c *echo.Context) *access.Person {
	p, ok := c.Request().Context().Value(personKey{}).(*access.Person)
	if !ok {
		return &access.Person{}
	}
	return p
}

// openPath reports whether nobody has to be known for a path.
func openPath(r *http.Request) bool {
	switch r.URL.Path {
	case "/healthz", "/readyz", "/sign-in", "/api/v1/openapi.yaml":
		return true
	case "/api/v1/sign-in":
		return r.Method == http.MethodPost
	case "/metrics":
		return false
	}
	return !strings.HasPrefix(r.URL.Path, "/api/") // the console's own files hold no records
}

// admitted lets those in who are known, to what they may do.
func (s *Service) admitted(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		if openPath(r) {
			return next(c)
		}
		p, err := s.known(r)
		if err != nil {
			return err
		}
		if p == nil {
			c.Response().Header().Set("WWW-Authenticate", "Bearer")
			return refused(http.StatusUnauthorized, "unknown", "nobody is signed in: give a token (%s, or unicausa sign-in for the console)", access.TokenVariable)
		}
		needed, project, err := s.needed(r)
		if err != nil {
			return err
		}
		if !p.May(needed, project) && !(ofEverybody[strings.TrimPrefix(r.URL.Path, "/api/v1")] && p.Somewhere(needed)) {
			if project != "" && !p.May(access.Reader, project) { // nor whether it is there
				refusals.WithLabelValues("role").Inc()
				return fmt.Errorf("%s: %w", strings.TrimPrefix(r.URL.Path, "/api/v1/"), store.ErrNotFound)
			}
			return refused(http.StatusForbidden, "role", "%s may not do this: it takes the role %s", p.Name, needed)
		}
		c.SetRequest(r.WithContext(context.WithValue(r.Context(), personKey{}, p)))
		return next(c)
	}
}

// ofEverybody are the paths about no upgrade that a role in one project is enough for: their
// handlers look at the projects themselves.
var ofEverybody = map[string]bool{"/me": true, "/sign-in": true, "/sign-in/key": true, "/upgrades": true, "/triage": true}

// known finds who asks: by a token in the header, else by the console's cookie.
func (s *Service) known(r *http.Request) (*access.Person, error) {
	if token, ok := strings.CutPrefix(r.Header.Get("Authorization"), "Bearer "); ok {
		return s.byToken(r, token)
	}
	cookie, err := r.Cookie(cookieName)
	if err != nil {
		return nil, nil
	}
	return s.store.BySession(r.Context(), access.Hash(cookie.Value))
}

// byToken finds whose a token is. That of the service's own user is good on its machine.
func (s *Service) byToken(r *http.Request, token string) (*access.Person, error) {
	if own := s.config.Token; own != "" && subtle.ConstantTimeCompare([]byte(own), []byte(token)) == 1 {
		if ip := net.ParseIP(hostOf(r.RemoteAddr)); ip == nil || !ip.IsLoopback() {
			return nil, nil
		}
		return access.Local(s.config.User), nil
	}
	return s.store.ByToken(r.Context(), access.Hash(token))
}

// needed is the role that a request takes, and the project that it is about, "" where it
// is about none.
func (s *Service) needed(r *http.Request) (access.Role, string, error) {
	path := strings.TrimPrefix(r.URL.Path, "/api/v1")
	role := access.Reader
	if changes(r) {
		role = access.Writer
	}
	for _, admins := range []string{"/people", "/deeds", "/backup", "/restore", "/storage"} {
		if path == admins || strings.HasPrefix(path, admins+"/") {
			return access.Admin, "", nil
		}
	}
	rest, ok := strings.CutPrefix(path, "/upgrades/")
	if !ok {
		if strings.HasPrefix(path, "/sign-in") || path == "/triage" { // which changes nothing
			role = access.Reader
		}
		return role, "", nil
	}
	name, below, _ := strings.Cut(rest, "/")
	id, err := strconv.ParseInt(name, 10, 64)
	if err != nil {
		return role, "", bad("%q is no upgrade: give its number", name)
	}
	if r.Method == http.MethodDelete && below == "" {
		role = access.Admin
	}
	if project, ok := s.projects.Load(id); ok {
		return role, project.(string), nil
	}
	project, err := s.store.ProjectOf(r.Context(), id)
	if err == nil {
		s.projects.Store(id, project) // an upgrade never changes its project
	}
	return role, project, err
}

// sign sets who decided wherever a body says so: it is who signed in.
func sign(v reflect.Value, name string) {
	if v.Kind() != reflect.Struct {
		return
	}
	for i := range v.NumField() {
		f := v.Field(i)
		if v.Type().Field(i).Name == "Author" && f.Kind() == reflect.String {
			f.SetString(name)
		} else {
			sign(f, name)
		}
	}
}
