package service

import (
	"context"
	"encoding/json"
	"errors"
	"io"
	"mime"
	"mime/multipart"
	"net/http"
	"path/filepath"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/read"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

// Bounds on the parts of a recording.
const (
	mostFacts  = 1 << 20
	mostSource = 64 << 20 // a zip, in bytes
	mostFiles  = 200_000  // in it
	mostTree   = 1 << 30  // bytes of these files together
	mostInputs = 200
)

// RecordRun answers POST /upgrades/{upgrade}/runs. Parts are spooled while they arrive;
// nothing is stored before all of it is there.
func (s *Service) RecordRun(c *echo.Context, id api.UpgradeID) error {
	ctx := c.Request().Context()
	receiving(c, s.config.MaxUpload)
	parts, err := c.Request().MultipartReader()
	if err != nil {
		return bad("a recording is multipart/form-data with the parts run, input and source: %v", err)
	}
	facts, err := runFacts(parts)
	if err != nil {
		return err
	}
	spool, err := store.NewSpool(facts)
	if err != nil {
		return err
	}
	defer spool.Close()
	if err := receive(parts, spool); err != nil {
		return err
	}
	received(c)
	masked.Add(float64(spool.Masked()))
	ctx, cancel := context.WithTimeoutCause(ctx, answerTime, errSlow)
	defer cancel()
	run, fresh, err := s.store.Record(ctx, id, spool)
	if err != nil {
		return err
	}
	status := http.StatusOK
	if fresh {
		status = http.StatusCreated
	}
	return c.JSON(status, view.Run(run))
}

// runFacts reads the first part.
func runFacts(parts *multipart.Reader) (store.RunFacts, error) {
	var given api.RunFacts
	part, err := parts.NextPart()
	if err != nil {
		return store.RunFacts{}, broken(err)
	}
	if part.FormName() != "run" {
		return store.RunFacts{}, bad("the first part is %q: it has to be run, the facts of the run as JSON", part.FormName())
	}
	if err := json.NewDecoder(io.LimitReader(part, mostFacts)).Decode(&given); err != nil {
		return store.RunFacts{}, bad("the part run is not the JSON that is wanted here: %v", err)
	}
	given.Check, given.Target = strings.TrimSpace(given.Check), strings.TrimSpace(given.Target)
	facts := view.GivenFacts(given)
	if given.Check == "" {
		return facts, bad("check is empty: name what was run, for example build or test")
	}
	if _, err := read.NewPatterns(facts.Patterns); err != nil {
		return facts, bad("%v", err)
	}
	return facts, nil
}

// receive spools the parts behind the first.
func receive(parts *multipart.Reader, spool *store.Spool) error {
	for {
		part, err := parts.NextPart()
		if err == io.EOF {
			if spool.Inputs() == 0 {
				return bad("there is no part input: send what the check printed, even if it is empty")
			}
			return nil
		}
		if err != nil {
			return broken(err)
		}
		switch part.FormName() {
		case "input":
			if spool.Inputs() == mostInputs {
				return bad("there are more than %d inputs in one run", mostInputs)
			}
			err = spool.Input(inputName(part), part)
		case "picture":
			err = receivePicture(part, spool)
		case "source":
			err = receiveSource(part, spool)
		default:
			err = bad("there is a part %q: only run, input, picture and source are known", part.FormName())
		}
		if err != nil {
			return broken(err)
		}
	}
}

// inputName is the part's file name with its folders, as it was sent.
func inputName(part *multipart.Part) string {
	_, params, err := mimeParams(part)
	if name := params["filename"]; err == nil && name != "" {
		return strings.TrimPrefix(filepath.ToSlash(filepath.Clean(name)), "/")
	}
	return "output"
}

// mostPicture bounds a picture, in bytes.
const mostPicture = 8 << 20

// receivePicture stores a picture of a form that every browser shows.
func receivePicture(part *multipart.Part, spool *store.Spool) error {
	data, err := io.ReadAll(io.LimitReader(part, mostPicture+1))
	if err != nil {
		return err
	}
	name, media := inputName(part), http.DetectContentType(data)
	switch {
	case len(data) > mostPicture:
		return bad("the picture %s is larger than %d MiB: make it smaller", name, mostPicture>>20)
	case media != "image/png" && media != "image/jpeg":
		return bad("%s is no PNG and no JPEG", name)
	}
	return spool.Picture(name, media, data)
}

func receiveSource(part io.Reader, spool *store.Spool) error {
	data, err := spool.Source(io.LimitReader(part, mostSource+1))
	if err != nil {
		return err
	}
	if data.Size() > mostSource {
		return bad("the source tree is larger than %d MiB as a zip: leave out what was generated or installed", mostSource>>20)
	}
	archive, err := openSource(data, data.Size())
	if err != nil {
		return err
	}
	err = spool.MaskSource(archive)
	if errors.Is(err, store.ErrFull) {
		return err
	}
	if err != nil {
		return bad("the part source is no zip: %v", err)
	}
	return nil
}

// broken says of an upload that ended early that nothing of it was stored.
func broken(err error) error {
	if errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, io.EOF) {
		return bad("the upload broke off: nothing of it was stored, send it again")
	}
	return err
}

func mimeParams(part *multipart.Part) (string, map[string]string, error) {
	return mime.ParseMediaType(part.Header.Get("Content-Disposition"))
}
