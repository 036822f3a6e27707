package service

import (
	"context"
	"net/http"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/view"
)

// GetMe answers GET /me.
func (s *Service) GetMe(c *echo.Context) error { return c.JSON(http.StatusOK, view.Me(who(c))) }

// SignIn answers POST /sign-in.
func (s *Service) SignIn(c *echo.Context) error {
	asked, err := body[api.SignIn](c)
	if err != nil {
		return err
	}
	p, err := s.byToken(c.Request(), strings.TrimSpace(asked.Token))
	if err != nil {
		return err
	}
	if p == nil {
		return refused(http.StatusUnauthorized, "token", "this token is not known here: it may have ended or been revoked, ask for another")
	}
	if err := s.letIn(c, p); err != nil {
		return err
	}
	signIns.WithLabelValues("token").Inc()
	return c.JSON(http.StatusOK, view.Me(p))
}

// letIn gives a console its cookie.
func (s *Service) letIn(c *echo.Context, p *access.Person) error {
	secret := access.NewSecret()
	if err := s.store.SignIn(c.Request().Context(), p, access.Hash(secret), false, signedIn); err != nil {
		return err
	}
	http.SetCookie(c.Response(), s.cookie(secret, int(signedIn.Seconds())))
	return nil
}

func (s *Service) cookie(value string, lasts int) *http.Cookie {
	return &http.Cookie{Name: cookieName, Value: value, Path: "/", MaxAge: lasts, HttpOnly: true, SameSite: http.SameSiteStrictMode, Secure: s.config.Secure}
}

// SignOut answers DELETE /sign-in.
func (s *Service) SignOut(c *echo.Context) error {
	if cookie, err := c.Request().Cookie(cookieName); err == nil {
		if err := s.store.SignOut(c.Request().Context(), access.Hash(cookie.Value)); err != nil {
			return err
		}
	}
	http.SetCookie(c.Response(), s.cookie("", -1))
	return c.NoContent(http.StatusNoContent)
}

// MakeSignInKey answers POST /sign-in/key.
func (s *Service) MakeSignInKey(c *echo.Context) error {
	key, err := s.signInKey(c.Request().Context(), who(c))
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, api.SignInKey{Key: key})
}

func (s *Service) signInKey(ctx context.Context, p *access.Person) (string, error) {
	key := access.NewSecret()
	return key, s.store.SignIn(ctx, p, access.Hash(key), true, keyTime)
}

// SignInKey is a key that signs a console in once, as the user of this machine.
func (s *Service) SignInKey(ctx context.Context) (string, error) {
	return s.signInKey(ctx, access.Local(s.config.User))
}

// signInByKey answers GET /sign-in?key=KEY: the page goes on to the console by itself, so
// that the cookie, which is for requests of its own pages alone, goes with it.
func (s *Service) signInByKey(c *echo.Context) error {
	p, err := s.store.UseKey(c.Request().Context(), access.Hash(c.QueryParam("key")))
	if err != nil {
		return err
	}
	if p == nil {
		refusals.WithLabelValues("key").Inc()
		return c.HTML(http.StatusUnauthorized, signInPage("This address has been used already, or is too old. Make another one with <code>unicausa sign-in</code>.", ""))
	}
	if err := s.letIn(c, p); err != nil {
		return err
	}
	signIns.WithLabelValues("key").Inc()
	return c.HTML(http.StatusOK, signInPage(`You are signed in. <a href="/">To the console</a>`, `<meta http-equiv="refresh" content="0;url=/">`))
}

func signInPage(text, head string) string {
	return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="color-scheme" content="light dark"><title>Unicausa</title>` + head +
		`</head><body style="font: 16px/1.5 system-ui, sans-serif; margin: 4rem auto; max-width: 40rem"><p>` + text + `</p></body></html>`
}

// ListPeople answers GET /people.
func (s *Service) ListPeople(c *echo.Context) error {
	return answerAs(c, view.People)(s.store.People(c.Request().Context()))
}

// AddPerson answers POST /people.
func (s *Service) AddPerson(c *echo.Context) error {
	n, err := body[api.NewPerson](c)
	if err != nil {
		return err
	}
	n.Name, n.Token = strings.TrimSpace(n.Name), strings.TrimSpace(n.Token)
	switch {
	case n.Name == "":
		return bad("name is empty: say who it is")
	case n.Token == "":
		return bad("token is empty: give the token a name, for example of the machine that it is for")
	case !n.Role.Valid():
		return bad("role is %q: give reader, writer or admin", n.Role)
	case n.EndsAt != nil && n.EndsAt.Before(time.Now()):
		return bad("endsAt has passed already")
	}
	secret := access.NewSecret()
	if err := s.store.AddPerson(c.Request().Context(), view.NewPerson(n), access.Hash(secret), who(c).Name); err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, api.NewToken{Token: secret})
}

// RemovePerson answers DELETE /people/{person}.
func (s *Service) RemovePerson(c *echo.Context, person string, p api.RemovePersonParams) error {
	return done(c, s.store.RemovePerson(c.Request().Context(), person, p.Token, who(c).Name))
}

// ListDeeds answers GET /deeds.
func (s *Service) ListDeeds(c *echo.Context) error {
	return answerAs(c, view.Deeds)(s.store.Deeds(c.Request().Context()))
}
