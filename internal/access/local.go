package access

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strings"
)

// TokenVariable is the environment variable that takes the place of the file, on both
// sides.
const TokenVariable = "UNICAUSA_TOKEN"

// tokenFile is where the token of this machine's user is kept.
func tokenFile() (string, error) {
	dir, err := os.UserConfigDir()
	if err != nil {
		return "", fmt.Errorf("finding the folder for the token: %w (set %s instead)", err, TokenVariable)
	}
	return filepath.Join(dir, "unicausa", "token"), nil
}

// Token is the token of this machine's user: from the environment, else from a file that
// only they can read. It is "" where there is none.
func Token() (string, error) {
	if token := os.Getenv(TokenVariable); token != "" {
		return token, nil
	}
	file, err := tokenFile()
	if err != nil {
		return "", err
	}
	data, err := os.ReadFile(file)
	if errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	if err != nil {
		return "", fmt.Errorf("reading the token: %w", err)
	}
	return strings.TrimSpace(string(data)), nil
}

// MakeToken is Token, which makes the file where there is none. Several may do so at once.
func MakeToken() (string, error) {
	token, err := Token()
	if err != nil || token != "" {
		return token, err
	}
	file, err := tokenFile()
	if err != nil {
		return "", err
	}
	if err := os.MkdirAll(filepath.Dir(file), 0o700); err != nil {
		return "", fmt.Errorf("keeping the token: %w (set %s instead)", err, TokenVariable)
	}
	made, err := os.CreateTemp(filepath.Dir(file), "token") // only its owner can read it
	if err != nil {
		return "", fmt.Errorf("keeping the token: %w (set %s instead)", err, TokenVariable)
	}
	defer os.Remove(made.Name())
	_, err = made.WriteString(NewSecret() + "\n")
	if closed := made.Close(); err == nil {
		err = closed
	}
	if err == nil {
		if err = os.Link(made.Name(), file); errors.Is(err, fs.ErrExist) {
			err = nil // another was faster
		}
	}
	if err != nil {
		return "", fmt.Errorf("keeping the token: %w (set %s instead)", err, TokenVariable)
	}
	return Token()
}

// UserName is the name of this machine's user: what git's configuration of the user says,
// "Name <mail>", or else the name that the system has.
func UserName() string {
	if name := gitSetting("user.name"); name != "" {
		if mail := gitSetting("user.email"); mail != "" {
			name += " <" + mail + ">"
		}
		return name
	}
	if u, err := user.Current(); err == nil && u.Username != "" {
		return u.Username
	}
	return fmt.Sprintf("uid %d", os.Getuid())
}

func gitSetting(name string) string {
	out, err := exec.Command("git", "config", "--global", name).Output()
	if err != nil {
		return ""
	}
	return strings.TrimSpace(string(out))
}
