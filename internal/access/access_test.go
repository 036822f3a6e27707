package access

import (
	"os"
	"path/filepath"
	"sync"
	"testing"
)

func TestMay(t *testing.T) {
	everywhere := &Person{Roles: map[string]Role{"": Reader, "ledger": Writer}}
	only := &Person{Roles: map[string]Role{"ledger": Admin}}
	for _, test := range []struct {
		name    string
		p       *Person
		needed  Role
		project string
		want    bool
	}{
		{"reads everywhere", everywhere, Reader, "press", true},
		{"writes in one", everywhere, Writer, "ledger", true},
		{"not in another", everywhere, Writer, "press", false},
		{"nor in all", everywhere, Writer, "", false},
		{"admin of one project", only, Admin, "ledger", true},
		{"sees nothing else", only, Reader, "press", false},
		{"and is no admin of the service", only, Admin, "", false},
		{"nobody", &Person{}, Reader, "ledger", false},
		{"no such role", Local("ada"), "owner", "", false},
		{"this machine's user", Local("ada"), Admin, "", true},
	} {
		if got := test.p.May(test.needed, test.project); got != test.want {
			t.Errorf("%s: %v", test.name, got)
		}
	}
	if !only.Somewhere(Writer) || (&Person{}).Somewhere(Reader) {
		t.Error("somewhere is told wrongly")
	}
}

// TestToken holds that there is one token whoever makes it, that only its owner can read
// it, and that the environment comes first.
func TestToken(t *testing.T) {
	dir := t.TempDir()
	t.Setenv("XDG_CONFIG_HOME", dir)
	t.Setenv(TokenVariable, "")
	if token, err := Token(); err != nil || token != "" {
		t.Fatalf("before there is one: %q, %v", token, err)
	}
	var wait sync.WaitGroup
	tokens := make([]string, 8)
	for i := range tokens {
		wait.Go(func() { tokens[i], _ = MakeToken() })
	}
	wait.Wait()
	for _, token := range tokens {
		if token != tokens[0] || len(token) < 64 {
			t.Fatalf("there are several: %q", tokens)
		}
	}
	info, err := os.Stat(filepath.Join(dir, "unicausa", "token"))
	if err != nil || info.Mode().Perm() != 0o600 {
		t.Errorf("others can read it: %v %v", info, err)
	}
	t.Setenv(TokenVariable, "given")
	if token, err := MakeToken(); err != nil || token != "given" {
		t.Errorf("of the environment: %q, %v", token, err)
	}
	if a, b := NewSecret(), NewSecret(); a == b || string(Hash(a)) == string(Hash(b)) {
		t.Error("secrets are the same")
	}
}
