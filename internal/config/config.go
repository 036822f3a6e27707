// Package config reads a project's own configuration, unicausa.yaml.
package config

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"os"

	"go.yaml.in/yaml/v3"

	"unicausa/internal/core/read"
	"unicausa/internal/core/secret"
)

// Name is the file's name, at the top of a project.
const Name = "unicausa.yaml"

// Config is what a project says about itself.
type Config struct {
	Patterns []read.Pattern `yaml:"patterns"`
	Checks   []Check        `yaml:"checks"`
	Secrets  []string       `yaml:"secrets"` // patterns of what must not leave the machine
}

// Load reads a configuration and checks it. A file that is not there gives an
// empty one when missing is allowed; other errors name the file and say what
// to do.
func Load(file string, missing bool) (Config, *read.Patterns, error) {
	data, err := os.ReadFile(file)
	if errors.Is(err, os.ErrNotExist) && missing {
		return Config{}, nil, nil
	}
	if err != nil {
		return Config{}, nil, fmt.Errorf("cannot read the configuration: %w", err)
	}
	return parse(file, data)
}

func parse(file string, data []byte) (Config, *read.Patterns, error) {
	var c Config
	dec := yaml.NewDecoder(bytes.NewReader(data))
	dec.KnownFields(true)
	if err := dec.Decode(&c); err != nil && err != io.EOF {
		return c, nil, fmt.Errorf("%s: %w (known at the top are checks, patterns and secrets)", file, err)
	}
	if err := validate(c.Checks); err != nil {
		return c, nil, fmt.Errorf("%s: %w", file, err)
	}
	if _, err := secret.New(c.Secrets); err != nil {
		return c, nil, fmt.Errorf("%s: %w", file, err)
	}
	patterns, err := read.NewPatterns(c.Patterns)
	if err != nil {
		return c, nil, fmt.Errorf("%s: %w", file, err)
	}
	return c, patterns, nil
}
