package access

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// home gives a user without settings.
func home(t *testing.T) string {
	t.Helper()
	folder := t.TempDir()
	t.Setenv("XDG_CONFIG_HOME", folder)
	t.Setenv(TokenVariable, "")
	return folder
}

func TestServers(t *testing.T) {
	folder := home(t)
	if known, err := KnownServers(); err != nil || len(known) != 0 {
		t.Fatalf("before any was named: %v, %v", known, err)
	}
	for _, remembered := range [][2]string{{"Causes.example:7236/", "first"}, {"http://causes.example:7236", ""}, {"https://other.example", ""}} {
		if err := Remember(remembered[0], remembered[1]); err != nil {
			t.Fatal(err)
		}
	}
	known, err := KnownServers()
	if err != nil || len(known) != 2 || known["http://causes.example:7236"] != "first" {
		t.Errorf("a token stays when a server is named again without one: %v, %v", known, err)
	}
	if err := Remember("causes.example:7236", "second"); err != nil {
		t.Fatal(err)
	}
	for server, want := range map[string]string{"causes.example:7236": "second", "https://other.example": "", "http://nobody.example": ""} {
		if token, err := TokenFor(server); err != nil || token != want {
			t.Errorf("%s: %q, %v", server, token, err)
		}
	}
	if token, err := TokenFor("localhost:7236"); err != nil || token != "" {
		t.Errorf("before a service has made one: %q, %v", token, err)
	}
	own, err := MakeToken()
	if err != nil || len(own) < 20 {
		t.Errorf("on this machine: %q, %v", own, err)
	}
	if again, err := MakeToken(); err != nil || again != own {
		t.Errorf("it is the same each time: %q, %v", again, err)
	}
	if token, err := TokenFor("127.0.0.1:7236"); err != nil || token != own {
		t.Errorf("it is for this machine's service: %q, %v", token, err)
	}
	t.Setenv(TokenVariable, "given")
	if token, err := TokenFor("https://other.example"); err != nil || token != "given" {
		t.Errorf("the environment comes first: %q, %v", token, err)
	}
	files, err := filepath.Glob(filepath.Join(folder, "*", "*"))
	if err != nil || len(files) != 2 {
		t.Fatalf("%q, %v", files, err)
	}
	for _, file := range files {
		info, err := os.Stat(file)
		if err != nil || info.Mode().Perm() != 0o600 {
			t.Errorf("%s may be read by others: %v, %v", file, info.Mode(), err)
		}
		if strings.HasSuffix(file, "servers.json") {
			if err := os.WriteFile(file, []byte("no JSON"), 0o600); err != nil {
				t.Fatal(err)
			}
		}
	}
	if _, err := KnownServers(); err == nil || !strings.Contains(err.Error(), "servers.json") {
		t.Errorf("what cannot be read names its file: %v", err)
	}
	if err := Remember("x", "y"); err == nil {
		t.Error("what cannot be read is not written over")
	}
}

func TestLoopback(t *testing.T) {
	for server, want := range map[string]bool{"localhost:7236": true, "http://LOCALHOST": true, "127.0.0.5:1": true, "http://[::1]:7236": true, "causes.example": false, "http://10.0.0.1": false, "http://localhost.example": false, "http://[": false} {
		if Loopback(server) != want {
			t.Errorf("%s: %v", server, !want)
		}
	}
}

func TestMayDo(t *testing.T) {
	mirja := &Person{ID: 1, Name: "Mirja", Roles: map[string]Role{"shelf": Writer, "press": Reader}}
	ada := &Person{ID: 2, Name: "Ada", Roles: map[string]Role{"": Admin}}
	for _, test := range []struct {
		who     *Person
		role    Role
		project string
		may     bool
	}{
		{mirja, Writer, "shelf", true}, {mirja, Admin, "shelf", false}, {mirja, Reader, "shelf", true}, {mirja, Writer, "press", false}, {mirja, Reader, "cellar", false}, {mirja, Reader, "", false},
		{ada, Admin, "shelf", true}, {ada, Writer, "", true}, {Local("keeper"), Admin, "anything", true}, {&Person{}, Reader, "shelf", false},
	} {
		if got := test.who.May(test.role, test.project); got != test.may {
			t.Errorf("%s as %s in %q: %v", test.who.Name, test.role, test.project, got)
		}
	}
	if !mirja.Somewhere(Writer) || mirja.Somewhere(Admin) || (&Person{}).Somewhere(Reader) {
		t.Error("a role somewhere")
	}
	for role, valid := range map[Role]bool{Reader: true, Writer: true, Admin: true, "king": false, "": false} {
		if role.Valid() != valid {
			t.Errorf("%q: %v", role, !valid)
		}
	}
}
