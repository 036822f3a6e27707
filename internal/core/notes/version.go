package notes

import (
	"regexp"
	"strconv"
	"strings"

	"unicausa/internal/core/versions"
)

var (
	versionToken = regexp.MustCompile(`(?i)\bv?(\d+\.(?:\d+|x)(?:\.(?:\d+|x))?(?:\.\d+)?(?:[-.]?(?:alpha|beta|rc|pre|preview|next|dev|snapshot|final|release|m|a|b|c)[-.]?\d*)?)\b`)
	fromTo       = regexp.MustCompile(`(?i)\bv?(\d+(?:\.\w+)*)\s*(?:to|→|->|=>|⇒|–)\s*v?(\d+(?:\.\w+)*)\b`)
	majorOnly    = regexp.MustCompile(`(?i)(?:\bversion|\brelease|\bv|\b(?:upgrad|updat|migrat|mov|port)(?:e|ing|ion)\b.{0,40}?\bto)\s?v?(\d+)\b`)
	// "Upgrading to Loom 8", "Loom 8", "Loom 8 -- release notes"
	namedMajor = regexp.MustCompile(`(?i)(?:(?:upgrad|updat|migrat|mov|port)\w*\b.{0,40}?\bto\s+|^)([A-Za-z][\w.@/-]*)\s+v?(\d+)\s*(?:$|(?:--|–|-|:)\s*(?:release|changes|notes))`)
	betweenTwo = regexp.MustCompile(`(?i)\bbetween\b.{0,30}?\bv?\d+(?:\.\w+)*\s+and\s+(?:\w+\s+)?v?(\d+(?:\.\w+)*)\b`)
	outOf      = regexp.MustCompile(`(?i)\b(?:upgrad|updat|migrat|mov|port)(?:e|ing|ion)\b.{0,30}?\bfrom\s+(?:[a-z][\w.-]*\s+)?v?(\d+)(?:\.(?:\d+|x))*\b`)
	toVersion  = regexp.MustCompile(`(?i)\bto\s+(?:[a-z][\w.@/-]*\s+){0,2}v?\d`)
	whatIsNew  = regexp.MustCompile(`(?i)^what.s new in\s+(?:[A-Za-z][\w.@/-]*\s+){0,2}v?(\d+)\s*$`)
	dateToken  = regexp.MustCompile(`(?i)\b(?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.? \d{1,2}(?:st|nd|rd|th)?,? \d{4}\b|\b\d{1,2}(?:st|nd|rd|th)? (?:jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?,? \d{4}\b|\b\d{4}[-./]\d{1,2}[-./]\d{1,2}\b|\b\d{1,2}\.\d{1,2}\.\d{4}\b`)
)

// Unreleased is the version of what no release holds yet.
const Unreleased = "unreleased"

// unreleased are headings of what comes with the next release.
var unreleased = map[string]bool{"unreleased": true, "not released": true, "upcoming": true, "next": true, "next release": true, "in development": true, "head": true, "trunk": true}

// dated is a version by the calendar, which looks like a date.
var dated = regexp.MustCompile(`^v?(\d{4}\.\d{1,2}\.\d{1,2})$`)

// headingVersion is the version that a heading names, or "".
func headingVersion(text string) string {
	bare := strings.Trim(text, "[]()#*: ")
	if unreleased[strings.ToLower(bare)] {
		return Unreleased
	}
	if !strings.ContainsAny(text, "0123456789") {
		return ""
	}
	if m := dated.FindStringSubmatch(bare); m != nil {
		return m[1]
	}
	text = dateToken.ReplaceAllString(text, "")
	if m := fromTo.FindStringSubmatch(text); m != nil {
		return m[2]
	}
	if m := betweenTwo.FindStringSubmatch(text); m != nil {
		return m[1]
	}
	if m := outOf.FindStringSubmatch(text); m != nil && !toVersion.MatchString(text) { // the step out of it
		if n, err := strconv.Atoi(m[1]); err == nil {
			return strconv.Itoa(n + 1)
		}
	}
	if m := whatIsNew.FindStringSubmatch(strings.TrimSpace(text)); m != nil {
		return m[1]
	}
	if m := versionToken.FindStringSubmatch(text); m != nil {
		return strings.TrimSuffix(strings.TrimSuffix(m[1], ".x"), ".X")
	}
	if m := majorOnly.FindStringSubmatch(text); m != nil {
		return m[1]
	}
	if m := namedMajor.FindStringSubmatch(strings.TrimSpace(text)); m != nil && !counting[strings.ToLower(m[1])] {
		return m[2]
	}
	if word := strings.Trim(text, "[]# v"); word != "" && len(word) <= 3 && strings.Trim(word, "0123456789") == "" {
		return word
	}
	return ""
}

// counting are words before a number that is no version.
var counting = map[string]bool{"step": true, "part": true, "chapter": true, "phase": true, "section": true, "appendix": true, "option": true, "case": true, "example": true, "stage": true, "level": true, "http": true, "utf": true, "table": true, "figure": true}

// packageHeading is a heading of a repository with several packages, which
// names one: "@jars/lids", "jars/lids 5.0.0", "lids@5.0.0".
var packageHeading = regexp.MustCompile("^[\\[`*]*(@[\\w.-]+/[\\w.-]+|[a-z][\\w.-]*(?:/[\\w.-]+)+|[a-z][\\w.-]*@(?:v?\\d))")

// headingPackage is the package that a heading names, or "".
func headingPackage(text string) string {
	m := packageHeading.FindStringSubmatch(text)
	if m == nil {
		return ""
	}
	name := m[1]
	if i := strings.LastIndexByte(name, '@'); i > 0 {
		name = name[:i]
	}
	rest := strings.Trim(versionToken.ReplaceAllString(dateToken.ReplaceAllString(text[len(m[0]):], ""), ""), "`*[]()@v:,- ")
	if len(strings.Fields(rest)) > 1 || strings.Contains(text, "`") && !strings.HasPrefix(text, "`") {
		return ""
	}
	return name
}

// versionWords may stand in a heading that is about a version as a whole.
var versionWords = map[string]bool{}

func init() {
	for _, w := range strings.Fields("version release released v from to in for of x upgrading migrating upgrade migration guide changes changelog notes notable noteworthy new what's yanked stable beta alpha lts the and") {
		versionWords[w] = true
	}
}

// aboutVersion reports whether a heading that names a version says nothing else.
func aboutVersion(text string) bool {
	text = versionToken.ReplaceAllString(fromTo.ReplaceAllString(dateToken.ReplaceAllString(text, ""), ""), "")
	for _, w := range strings.FieldsFunc(strings.ToLower(text), func(r rune) bool { return !(r == '\'' || 'a' <= r && r <= 'z') }) {
		if !versionWords[w] {
			return false
		}
	}
	return true
}

// Within reports whether a change of this version lies in the move from one
// version to another: above from, up to and including to. An unknown version,
// and an empty bound, let it pass; what is unreleased is above every bound. A version given only in part ("4", "4.1")
// stands for every release that begins with it.
func Within(version, from, to string) bool {
	switch version {
	case "":
		return true
	case Unreleased:
		return to == ""
	}
	if from != "" && versions.Order(version, from) <= 0 && !begins(from, version) {
		return false
	}
	return to == "" || versions.Order(version, to) <= 0 || begins(to, version)
}

// begins reports whether a full version belongs to a series given in part.
func begins(full, series string) bool {
	return strings.Count(series, ".") < strings.Count(full, ".") && series != major(full) && strings.HasPrefix(strings.TrimPrefix(full, "v")+".", series+".")
}

func major(v string) string {
	head, _, _ := strings.Cut(strings.TrimPrefix(v, "v"), ".")
	return head
}
