package gitrepo

import (
	"crypto/sha256"
	"encoding/hex"
	"regexp"
	"slices"
	"strings"
	"time"
)

// Trailer is the line by which a commit's message names the causes that it
// settles: "Unicausa-Cause: C3, C5".
const Trailer = "Unicausa-Cause"

// Logged is a commit with the causes that its trailer names.
type Logged struct {
	ID, Subject, Author string
	At                  time.Time
	Causes              []string
	Files               []string // that it touches
}

// Branch is the branch that a working copy is on, "" for none.
func Branch(dir string) string {
	out, err := git(dir, "symbolic-ref", "--quiet", "--short", "HEAD")
	if err != nil {
		return ""
	}
	return strings.TrimSpace(out)
}

// DiffDigest is the SHA-256 of what is not committed, as git diff prints it
// without colour and rename detection; "" where all is.
func DiffDigest(dir string) string {
	out, err := git(dir, "diff", "--no-color", "--no-ext-diff", "--no-renames", "--full-index", "--binary", "HEAD")
	if err != nil || out == "" {
		return ""
	}
	sum := sha256.Sum256([]byte(out))
	return hex.EncodeToString(sum[:])
}

// mostLogged bounds a list of commits.
const mostLogged = 200

// Since lists the commits behind any of the known ones, the latest first. With
// none that the working copy has, it is the commit that it stands on.
func Since(dir string, known []string) []Logged {
	const form = "--format=%x1e%H%x1f%an%x1f%aI%x1f%s%x1f%(trailers:key=" + Trailer + ",valueonly,separator=%x2C)%x1f"
	args := []string{"-c", "core.quotePath=false", "log", form, "--name-only", "--no-merges", "-n", "1"}
	if have := slices.DeleteFunc(slices.Clone(known), func(id string) bool { return !has(dir, id) }); len(have) > 0 {
		args = append([]string{"-c", "core.quotePath=false", "log", form, "--name-only", "-n", "200", "HEAD", "--not"}, have...)
	}
	out, err := git(dir, args...)
	if err != nil {
		return nil
	}
	var list []Logged
	for _, record := range strings.Split(out, "\x1e") {
		fields := strings.Split(strings.TrimSpace(record), "\x1f")
		if len(fields) != 6 || len(list) == mostLogged {
			continue
		}
		at, err := time.Parse(time.RFC3339, fields[2])
		if err != nil {
			continue
		}
		list = append(list, Logged{ID: fields[0], Author: fields[1], At: at, Subject: fields[3], Causes: causes(fields[4]), Files: strings.FieldsFunc(fields[5], func(r rune) bool { return r == '\n' })})
	}
	return list
}

func has(dir, id string) bool {
	_, err := git(dir, "merge-base", "--is-ancestor", id, "HEAD")
	return err == nil
}

var causeName = regexp.MustCompile(`\bC[0-9]+\b`)

func causes(trailer string) []string {
	list := causeName.FindAllString(strings.ToUpper(trailer), -1)
	slices.Sort(list)
	return slices.Compact(list)
}
