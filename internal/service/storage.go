package service

import (
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"time"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/pglocal"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// GetBackup answers GET /backup. What goes wrong once it has begun breaks the answer off,
// so that nobody takes half a backup for a whole one.
func (s *Service) GetBackup(c *echo.Context) error {
	w := c.Response()
	w.Header().Set("Content-Type", "application/octet-stream")
	w.Header().Set("Content-Disposition", fmt.Sprintf(`attachment; filename="unicausa-%s.backup"`, time.Now().UTC().Format("2006-01-02")))
	to := &steady{Writer: w, control: http.NewResponseController(w)}
	if err := pglocal.Dump(c.Request().Context(), s.config.Database, to); err != nil {
		if to.begun {
			s.config.Log.Error("backup", "error", err)
			panic(http.ErrAbortHandler)
		}
		w.Header().Del("Content-Disposition")
		return err
	}
	return s.store.Deed(c.Request().Context(), who(c).Name, "a backup was made")
}

// steady is a download that goes on as long as it is taken.
type steady struct {
	io.Writer
	control *http.ResponseController
	begun   bool
}

func (s *steady) Write(p []byte) (int, error) {
	s.begun = true
	s.control.SetWriteDeadline(time.Now().Add(uploadIdle))
	return s.Writer.Write(p)
}

// RestoreBackup answers POST /restore. The work under way is ended first and goes on with
// what was restored.
func (s *Service) RestoreBackup(c *echo.Context) error {
	receiving(c, 1<<40)
	file, err := os.CreateTemp("", "unicausa-restore")
	if err != nil {
		return fmt.Errorf("keeping the backup: %w", err)
	}
	defer os.Remove(file.Name())
	defer file.Close()
	if _, err := io.Copy(file, c.Request().Body); err != nil {
		return broken(err)
	}
	http.NewResponseController(c.Response()).SetWriteDeadline(time.Time{})
	ctx := c.Request().Context()
	version, err := pglocal.DumpVersion(ctx, s.config.Database, file.Name())
	if errors.Is(err, pglocal.ErrNoDump) {
		return bad("%v", err)
	}
	if err != nil {
		return err
	}
	if known := store.Known(); version > known {
		return bad("the backup is of tables of version %d, this program knows them up to %d: restore it with the program that made it", version, known)
	}
	if err := pglocal.Restore(ctx, s.config.Database, file.Name()); err != nil {
		return err
	}
	if err := s.store.Renew(ctx, s.config.Database); err != nil {
		return err
	}
	s.projects.Clear()
	kept, err := s.store.Verify(ctx)
	if err != nil {
		return bad("the backup is restored, and it is not whole: %v", err)
	}
	if err := s.store.Deed(ctx, who(c).Name, fmt.Sprintf("a backup of %d upgrades was restored", kept.Upgrades)); err != nil {
		return err
	}
	if err := s.worker.catchUp(ctx); err != nil {
		return err
	}
	return c.JSON(http.StatusOK, api.Kept(kept))
}

// PruneStorage answers POST /storage/prune.
func (s *Service) PruneStorage(c *echo.Context) error {
	asked, err := body[api.Prune](c)
	if err != nil {
		return err
	}
	if asked.Before == nil && asked.Keep == nil {
		return bad("give before, keep or both: nothing is let go without a bound")
	}
	return answerAs(c, view.Pruned)(s.store.Prune(c.Request().Context(), asked.Before, asked.Keep, who(c).Name))
}

// DeleteUpgrade answers DELETE /upgrades/{upgrade}.
func (s *Service) DeleteUpgrade(c *echo.Context, id api.UpgradeID) error {
	if err := s.store.Delete(c.Request().Context(), id, who(c).Name); err != nil {
		return err
	}
	s.projects.Delete(id)
	return c.NoContent(http.StatusNoContent)
}
