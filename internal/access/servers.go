package access

import (
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net"
	"net/url"
	"os"
	"path/filepath"
	"strings"
)

// Servers are the services that this machine's user has named, each with their token there,
// "" where it is that of the machine.
type Servers map[string]string

func serversFile() (string, error) {
	file, err := tokenFile()
	return filepath.Join(filepath.Dir(file), "servers.json"), err
}

// Address is a service's address in the form in which it is known.
func Address(server string) string {
	server = strings.ToLower(strings.TrimRight(server, "/"))
	if !strings.Contains(server, "://") {
		server = "http://" + server
	}
	return server
}

// KnownServers reads those that were named.
func KnownServers() (Servers, error) {
	file, err := serversFile()
	if err != nil {
		return Servers{}, nil // without a folder of their own a user has named none
	}
	data, err := os.ReadFile(file)
	if errors.Is(err, fs.ErrNotExist) {
		return Servers{}, nil
	}
	list := Servers{}
	if err == nil {
		err = json.Unmarshal(data, &list)
	}
	if err != nil {
		return nil, fmt.Errorf("reading the known servers in %s: %w", file, err)
	}
	return list, nil
}

// Remember keeps a service, and a token where there is one.
func Remember(server, token string) error {
	list, err := KnownServers()
	if err != nil {
		return err
	}
	known, there := list[Address(server)]
	if token == "" {
		token = known
	}
	if there && known == token {
		return nil
	}
	list[Address(server)] = token
	file, err := serversFile()
	if err != nil {
		return err
	}
	data, err := json.MarshalIndent(list, "", "  ")
	if err == nil {
		err = os.MkdirAll(filepath.Dir(file), 0o700)
	}
	if err == nil {
		err = os.WriteFile(file, append(data, '\n'), 0o600)
	}
	if err != nil {
		return fmt.Errorf("remembering the server: %w", err)
	}
	return nil
}

// TokenFor is the token for a service that the user has named: of the environment, the one
// that was remembered for it, or, on this machine, that of its user.
func TokenFor(server string) (string, error) {
	if token := os.Getenv(TokenVariable); token != "" {
		return token, nil
	}
	list, err := KnownServers()
	if err != nil {
		return "", err
	}
	if token := list[Address(server)]; token != "" {
		return token, nil
	}
	if !Loopback(server) {
		return "", nil
	}
	return Token()
}

// Loopback reports whether a service is on this machine.
func Loopback(server string) bool {
	u, err := url.Parse(Address(server))
	if err != nil {
		return false
	}
	ip := net.ParseIP(u.Hostname())
	return ip != nil && ip.IsLoopback() || strings.EqualFold(u.Hostname(), "localhost")
}
