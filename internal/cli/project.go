package cli

import (
	"fmt"
	"os"
	"path/filepath"

	"unicausa/internal/config"
	"unicausa/internal/gitrepo"
)

// project is the top folder of the project that the working folder is in: the nearest one
// with the note of an upgrade, else with a configuration, else git's; without any of them
// the working folder itself.
func project() (string, error) {
	here, err := os.Getwd()
	if err != nil {
		return "", fmt.Errorf("finding the working folder: %w", err)
	}
	for _, name := range []string{currentName, config.Name} {
		for dir := here; ; dir = filepath.Dir(dir) {
			if _, err := os.Stat(filepath.Join(dir, name)); err == nil {
				return dir, nil
			}
			if dir == filepath.Dir(dir) {
				break
			}
		}
	}
	if top, ok := gitrepo.Top(here); ok {
		return top, nil
	}
	return here, nil
}
