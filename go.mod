module unicausa

go 1.26.0

require (
	charm.land/lipgloss/v2 v2.0.6
	github.com/Masterminds/semver/v3 v3.5.0
	github.com/cespare/xxhash/v2 v2.3.0
	github.com/charmbracelet/x/term v0.2.2
	github.com/urfave/cli/v3 v3.14.0
	github.com/yuin/goldmark v1.8.7
	golang.org/x/text v0.43.0
)

require (
	github.com/charmbracelet/colorprofile v0.4.3 // indirect
	github.com/charmbracelet/ultraviolet v0.0.0-20260811164956-006e29f97886 // indirect
	github.com/charmbracelet/x/ansi v0.11.8 // indirect
	github.com/charmbracelet/x/termios v0.1.1 // indirect
	github.com/charmbracelet/x/windows v0.2.2 // indirect
	github.com/clipperhouse/displaywidth v0.11.0 // indirect
	github.com/clipperhouse/uax29/v2 v2.7.0 // indirect
	github.com/lucasb-eyer/go-colorful v1.4.1 // indirect
	github.com/mattn/go-runewidth v0.0.24 // indirect
	github.com/muesli/cancelreader v0.2.2 // indirect
	github.com/rivo/uniseg v0.4.7 // indirect
	github.com/xo/terminfo v0.0.0-20220910002029-abceb7e1c41e // indirect
	golang.org/x/sync v0.24.0 // indirect
	golang.org/x/sys v0.47.0 // indirect
)
