package client

import (
	"context"

	"unicausa/internal/api"
)

// Me is who is signed in.
func (c *Client) Me(ctx context.Context) (api.Me, error) {
	r, err := c.api.GetMeWithResponse(ctx)
	if err != nil {
		return api.Me{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// SignInKey makes a key that signs a console in once.
func (c *Client) SignInKey(ctx context.Context) (string, error) {
	r, err := c.api.MakeSignInKeyWithResponse(ctx)
	if err != nil {
		return "", c.unreachable(err)
	}
	key, err := result(c, r.JSON201, r.Body, r.HTTPResponse)
	return key.Key, err
}

// People lists the people with their roles and tokens.
func (c *Client) People(ctx context.Context) ([]api.Person, error) {
	r, err := c.api.ListPeopleWithResponse(ctx)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// AddPerson gives a person a role and a token, which it returns.
func (c *Client) AddPerson(ctx context.Context, n api.NewPerson) (string, error) {
	r, err := c.api.AddPersonWithResponse(ctx, n)
	if err != nil {
		return "", c.unreachable(err)
	}
	token, err := result(c, r.JSON201, r.Body, r.HTTPResponse)
	return token.Token, err
}

// RemovePerson removes a person, or, where it is named, one token alone.
func (c *Client) RemovePerson(ctx context.Context, name, token string) error {
	p := &api.RemovePersonParams{}
	if token != "" {
		p.Token = &token
	}
	r, err := c.api.RemovePersonWithResponse(ctx, name, p)
	if err != nil {
		return c.unreachable(err)
	}
	return c.gone(r.StatusCode(), r.Body)
}

// Deeds lists what was done to the service itself.
func (c *Client) Deeds(ctx context.Context) ([]api.Deed, error) {
	r, err := c.api.ListDeedsWithResponse(ctx)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}
