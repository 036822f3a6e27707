// Package access says who may do what: people, their roles in projects, and the secrets
// by which they are known.
package access

import (
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
)

// Role is what a person may do. Each role may do all that those before it may.
type Role string

// The roles in rising order.
const (
	Reader Role = "reader" // look at everything
	Writer Role = "writer" // record, decide, correct
	Admin  Role = "admin"  // people, backups, deletion
)

var rank = map[Role]int{Reader: 1, Writer: 2, Admin: 3}

// Valid reports whether there is such a role.
func (r Role) Valid() bool { return rank[r] > 0 }

// Allows reports whether a person of the role may do what another role is needed for.
func (r Role) Allows(needed Role) bool { return rank[r] >= rank[needed] && rank[needed] > 0 }

// Person is who signed in. Roles are by project, under "" for all of them.
type Person struct {
	ID    int64 // 0 for the user of the service's machine
	Name  string
	Roles map[string]Role
}

// May reports whether the person may do in a project what the role is needed for; a
// project of "" stands for all of them.
func (p *Person) May(needed Role, project string) bool {
	return p.Roles[""].Allows(needed) || project != "" && p.Roles[project].Allows(needed)
}

// Somewhere reports whether the person may do it in some project at least.
func (p *Person) Somewhere(needed Role) bool {
	for _, r := range p.Roles {
		if r.Allows(needed) {
			return true
		}
	}
	return false
}

// Local is the user of the machine that the service runs on, who may do everything.
func Local(name string) *Person { return &Person{Name: name, Roles: map[string]Role{"": Admin}} }

// NewSecret is a token, a key or the value of a cookie: 256 bits of chance.
func NewSecret() string {
	secret := make([]byte, 32)
	rand.Read(secret) // never fails, as its documentation says
	return "unicausa_" + hex.EncodeToString(secret)
}

// Hash is what is kept of a secret. Its chance is too large to be guessed, so that a plain
// SHA-256 protects it.
func Hash(secret string) []byte {
	sum := sha256.Sum256([]byte(secret))
	return sum[:]
}
