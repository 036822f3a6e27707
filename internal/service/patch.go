package service

import (
	"fmt"
	"net/http"
	"slices"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/casebook"
	"unicausa/internal/core/exposure"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/rewrite"
	"unicausa/internal/core/source"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// GetPatch answers GET /upgrades/{upgrade}/changes/{change}/patch: by the template that
// is kept for the change, or else by its notes.
func (s *Service) GetPatch(c *echo.Context, id api.UpgradeID, change api.ChangeID, p api.GetPatchParams) error {
	kept, err := s.store.Templates(c.Request().Context(), id)
	if err != nil {
		return err
	}
	var examples []rewrite.Example
	if i := slices.IndexFunc(kept, func(t casebook.Template) bool { return t.ChangeID == change }); i >= 0 {
		examples = kept[i].Examples
	}
	patch, err := s.patch(c, id, change, examples, p.Only)
	if err != nil {
		return err
	}
	patch.Kept = len(examples) > 0
	return c.JSON(http.StatusOK, patch)
}

// PatchByExample answers POST /upgrades/{upgrade}/patches.
func (s *Service) PatchByExample(c *echo.Context, id api.UpgradeID) error {
	asked, err := body[api.Examples](c)
	if err != nil {
		return err
	}
	if asked.Keep && asked.Change == "" {
		return bad("a template is kept for a change: say which with change")
	}
	if len(asked.Examples) == 0 && !asked.Keep {
		return bad("there is no example: give code before and after the edit")
	}
	examples := view.GivenExamples(asked.Examples)
	patch, err := s.patch(c, id, asked.Change, examples, &asked.Only)
	if err != nil {
		return err
	}
	if asked.Keep {
		if err := s.keep(c, id, asked.Change, examples, asked.Author); err != nil {
			return err
		}
		patch.Kept = len(examples) > 0
	}
	return c.JSON(http.StatusOK, patch)
}

// keep remembers what examples teach of a change.
func (s *Service) keep(c *echo.Context, id int64, change string, examples []rewrite.Example, author string) error {
	t := casebook.Template{ChangeID: change}
	if len(examples) > 0 {
		tree, list, i, err := s.changeIn(c, id, change)
		if err != nil {
			return err
		}
		shape, err := rewrite.Shape(tree, examples, &list[i])
		if err != nil {
			return bad("%v", err)
		}
		t.Change, t.Package, t.Shape, t.Examples = list[i].Title, list[i].Package, shape.String(), shape.Examples()
	}
	return s.store.KeepTemplate(c.Request().Context(), id, t, author)
}

// changeIn is the tree of the latest run, and the changes with the place of one of them,
// -1 where none is named.
func (s *Service) changeIn(c *echo.Context, id int64, change string) (tree *source.Tree, list []notes.Change, i int, err error) {
	a, err := s.store.Inspect(c.Request().Context(), id)
	if err != nil {
		return nil, nil, 0, err
	}
	defer a.Cancel()
	if list, err = a.Changes(); err != nil {
		return nil, nil, 0, err
	}
	i = slices.IndexFunc(list, func(c notes.Change) bool { return c.ID == change })
	if i < 0 && change != "" {
		return nil, nil, 0, fmt.Errorf("change %s: %w", change, store.ErrNotFound)
	}
	_, tree, err = a.Trees()
	return tree, list, i, err
}

// patch makes the patch of a change, of examples, or of both, for certain files and
// places or for all.
func (s *Service) patch(c *echo.Context, id int64, change string, examples []rewrite.Example, only *[]string) (api.Patch, error) {
	tree, list, i, err := s.changeIn(c, id, change)
	if err != nil {
		return api.Patch{}, err
	}
	var p rewrite.Patch
	switch {
	case len(examples) == 0:
		p = rewrite.Of(tree, &list[i], exposure.Search(c.Request().Context(), tree, list[i:i+1])[0], list)
	default:
		var of *notes.Change
		if i >= 0 {
			of = &list[i]
		}
		if p, err = rewrite.ByExample(c.Request().Context(), tree, examples, of); err != nil {
			return api.Patch{}, bad("%v", err)
		}
	}
	if tree == nil {
		p.Why = "no run came with its source tree: record one in a git working copy"
	}
	var some []string
	if only != nil {
		some = *only
	}
	return selected(tree, p, some)
}

// selected is a patch with its diff, for certain files and places or for all.
func selected(tree *source.Tree, p rewrite.Patch, only []string) (api.Patch, error) {
	if len(only) > 0 {
		p.Edits = rewrite.Select(p.Edits, only)
		p.Moves = slices.DeleteFunc(p.Moves, func(m rewrite.Move) bool { return !slices.Contains(only, m.From) })
	}
	diff, err := rewrite.Diff(tree, p.Edits, p.Moves)
	if err != nil {
		return api.Patch{}, err
	}
	if p.Why == "" && len(p.Edits) == 0 && len(p.Moves) == 0 && len(only) > 0 {
		p.Why = "none of the places named is one that can be edited"
	}
	return view.Patch(p, diff), nil
}
