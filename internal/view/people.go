package view

import (
	"maps"
	"slices"

	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/store"
)

// People are people with their roles and tokens.
func People(all []store.Person) []api.Person {
	return list(all, func(p store.Person) api.Person {
		return api.Person{Name: p.Name, Roles: roles(p.Roles), Tokens: list(p.Tokens, func(t store.Token) api.Token { return api.Token(t) })}
	})
}

// Me is who asks.
func Me(p *access.Person) api.Me {
	return api.Me{Name: p.Name, Local: p.ID == 0, Roles: roles(p.Roles)}
}

func roles(all map[string]access.Role) []api.PersonRole {
	out := []api.PersonRole{}
	for _, project := range slices.Sorted(maps.Keys(all)) {
		out = append(out, api.PersonRole{Project: project, Role: api.Role(all[project])})
	}
	return out
}

// NewPerson is a person as a caller adds one.
func NewPerson(n api.NewPerson) store.NewPerson {
	return store.NewPerson{Name: n.Name, Role: access.Role(n.Role), Projects: n.Projects, Token: n.Token, EndsAt: n.EndsAt}
}

// Deeds are what was done to the service itself.
func Deeds(all []store.Deed) []api.Deed {
	return list(all, func(d store.Deed) api.Deed { return api.Deed(d) })
}
