package store

import (
	"context"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"unicausa/internal/access"
)

// Person is somebody who may ask, with the role in each project ("" for all).
type Person struct {
	ID     int64                  `db:"id"`
	Name   string                 `db:"name"`
	Roles  map[string]access.Role `db:"-"`
	Tokens []Token                `db:"-"`
}

// Token is a token of a person: when it ends, nil for never, and its last use, to the minute.
type Token struct {
	CreatedAt time.Time  `db:"created_at"`
	EndsAt    *time.Time `db:"ends_at"`
	Name      string     `db:"name"`
	UsedAt    *time.Time `db:"used_at"`
}

// NewPerson is a person, or a further token of one, to be added. No projects means all.
type NewPerson struct {
	Name     string
	Role     access.Role
	Projects []string
	Token    string // its name
	EndsAt   *time.Time
}

// Deed is what was done to the service itself.
type Deed struct {
	At     time.Time `db:"at"`
	Author string    `db:"author"`
	Text   string    `db:"text"`
}

// People lists the people with their roles and tokens, by name.
func (s *Store) People(ctx context.Context) ([]Person, error) {
	list := []Person{}
	if err := s.db.SelectContext(ctx, &list, `SELECT id, name FROM person ORDER BY name`); err != nil {
		return nil, fmt.Errorf("reading the people: %w", err)
	}
	for i := range list {
		p := &list[i]
		var err error
		if p.Roles, err = s.roles(ctx, p.ID); err != nil {
			return nil, err
		}
		if err := s.db.SelectContext(ctx, &p.Tokens, `SELECT name, created_at, ends_at, used_at FROM token WHERE person_id = $1 ORDER BY name`, p.ID); err != nil {
			return nil, fmt.Errorf("reading the tokens: %w", err)
		}
	}
	return list, nil
}

func (s *Store) roles(ctx context.Context, person int64) (map[string]access.Role, error) {
	var rows []struct {
		Project string      `db:"project"`
		Role    access.Role `db:"role"`
	}
	if err := s.db.SelectContext(ctx, &rows, `SELECT project, role FROM person_role WHERE person_id = $1`, person); err != nil {
		return nil, fmt.Errorf("reading the roles: %w", err)
	}
	roles := map[string]access.Role{}
	for _, r := range rows {
		roles[r.Project] = r.Role
	}
	return roles, nil
}

// AddPerson gives a person a role, in some projects or in all, and a token, and makes the
// person where there is none of that name. A token of that name gives ErrConflict.
func (s *Store) AddPerson(ctx context.Context, n NewPerson, hash []byte, author string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		var id int64
		if err := tx.GetContext(ctx, &id, `INSERT INTO person (name) VALUES ($1) ON CONFLICT (name) DO UPDATE SET name = excluded.name RETURNING id`, n.Name); err != nil {
			return fmt.Errorf("storing the person: %w", err)
		}
		projects := n.Projects
		if len(projects) == 0 {
			projects = []string{""}
		}
		for _, project := range projects {
			_, err := tx.ExecContext(ctx, `INSERT INTO person_role (person_id, project, role) VALUES ($1, $2, $3) ON CONFLICT (person_id, project) DO UPDATE SET role = excluded.role`, id, project, n.Role)
			if err != nil {
				return fmt.Errorf("storing the role: %w", err)
			}
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO token (person_id, name, hash, ends_at) VALUES ($1, $2, $3, $4)`, id, n.Token, hash, n.EndsAt)
		if duplicate(err) {
			return fmt.Errorf("the token %q of %s: %w: revoke it first, or give another name", n.Token, n.Name, ErrConflict)
		}
		if err != nil {
			return fmt.Errorf("storing the token: %w", err)
		}
		return addDeed(ctx, tx, author, fmt.Sprintf("%s is %s, with the token %q", n.Name, n.Role, n.Token))
	})
}

// RemovePerson removes a person with all tokens and sign-ins, or one token alone. What the
// person decided stays. One that is not there gives ErrNotFound.
func (s *Store) RemovePerson(ctx context.Context, name string, token *string, author string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		query, args, what := `DELETE FROM person WHERE name = $1`, []any{name}, name
		if token != nil {
			query, args = `DELETE FROM token WHERE person_id = (SELECT id FROM person WHERE name = $1) AND name = $2`, []any{name, *token}
			what = fmt.Sprintf("the token %q of %s", *token, name)
		}
		done, err := tx.ExecContext(ctx, query, args...)
		if err != nil {
			return fmt.Errorf("removing %s: %w", what, err)
		}
		if n, err := done.RowsAffected(); err != nil || n == 0 {
			return fmt.Errorf("%s: %w", what, ErrNotFound)
		}
		if token != nil { // sign-ins do not remember by which token they came
			if _, err := tx.ExecContext(ctx, `DELETE FROM session WHERE person_id = (SELECT id FROM person WHERE name = $1)`, name); err != nil {
				return fmt.Errorf("ending the sign-ins of %s: %w", name, err)
			}
		}
		return addDeed(ctx, tx, author, what+" is removed")
	})
}

// ByToken finds who a token is of, nil for nobody, and notes its use.
func (s *Store) ByToken(ctx context.Context, hash []byte) (*access.Person, error) {
	return s.person(ctx, `
		UPDATE token t SET used_at = CASE WHEN used_at > now() - interval '1 minute' THEN used_at ELSE now() END
		FROM person p WHERE p.id = t.person_id AND t.hash = $1 AND (t.ends_at IS NULL OR t.ends_at > now()) RETURNING p.id, p.name`, hash)
}

// BySession finds who signed a console in, nil for nobody.
func (s *Store) BySession(ctx context.Context, hash []byte) (*access.Person, error) {
	return s.person(ctx, `SELECT coalesce(person_id, 0) AS id, name FROM session WHERE hash = $1 AND NOT once AND ends_at > now()`, hash)
}

func (s *Store) person(ctx context.Context, query string, hash []byte) (*access.Person, error) {
	var rows []struct {
		ID   int64  `db:"id"`
		Name string `db:"name"`
	}
	if err := s.db.SelectContext(ctx, &rows, query, hash); err != nil {
		return nil, fmt.Errorf("finding who asks: %w", err)
	}
	if len(rows) == 0 {
		return nil, nil
	}
	if rows[0].ID == 0 {
		return access.Local(rows[0].Name), nil
	}
	roles, err := s.roles(ctx, rows[0].ID)
	return &access.Person{ID: rows[0].ID, Name: rows[0].Name, Roles: roles}, err
}

// SignIn keeps a sign-in of a person until it ends, or a key for one that is good once.
func (s *Store) SignIn(ctx context.Context, p *access.Person, hash []byte, once bool, lasts time.Duration) error {
	_, err := s.db.ExecContext(ctx, `
		WITH ended AS (DELETE FROM session WHERE ends_at < now())
		INSERT INTO session (hash, person_id, name, once, ends_at) VALUES ($1, nullif($2, 0), $3, $4, now() + make_interval(secs => $5))`,
		hash, p.ID, p.Name, once, lasts.Seconds())
	if err != nil {
		return fmt.Errorf("keeping the sign-in: %w", err)
	}
	return nil
}

// UseKey takes a key for a sign-in, and gives whose it is, nil where it is not good any
// more.
func (s *Store) UseKey(ctx context.Context, hash []byte) (*access.Person, error) {
	return s.person(ctx, `DELETE FROM session WHERE hash = $1 AND once AND ends_at > now() RETURNING coalesce(person_id, 0) AS id, name`, hash)
}

// SignOut ends a sign-in.
func (s *Store) SignOut(ctx context.Context, hash []byte) error {
	if _, err := s.db.ExecContext(ctx, `DELETE FROM session WHERE hash = $1`, hash); err != nil {
		return fmt.Errorf("ending the sign-in: %w", err)
	}
	return nil
}

// ProjectOf is the name of an upgrade's project, or ErrNotFound.
func (s *Store) ProjectOf(ctx context.Context, upgrade int64) (string, error) {
	var name string
	err := s.db.GetContext(ctx, &name, `SELECT p.name FROM upgrade u JOIN project p ON p.id = u.project_id WHERE u.id = $1`, upgrade)
	return name, found(err, fmt.Sprintf("upgrade %d", upgrade))
}

// addDeed records what was done to the service itself.
func addDeed(ctx context.Context, tx *sqlx.Tx, author, text string) error {
	if _, err := tx.ExecContext(ctx, `INSERT INTO deed (author, text) VALUES ($1, $2)`, author, text); err != nil {
		return fmt.Errorf("recording what was done: %w", err)
	}
	return nil
}

// Deed records what was done to the service itself.
func (s *Store) Deed(ctx context.Context, author, text string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error { return addDeed(ctx, tx, author, text) })
}

// Deeds lists what was done to the service itself, the latest first, at most 200.
func (s *Store) Deeds(ctx context.Context) ([]Deed, error) {
	var list []Deed
	if err := s.db.SelectContext(ctx, &list, `SELECT author, text, at FROM deed ORDER BY id DESC LIMIT 200`); err != nil {
		return nil, fmt.Errorf("reading what was done: %w", err)
	}
	return list, nil
}
