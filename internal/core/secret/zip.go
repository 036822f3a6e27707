package secret

import (
	"archive/zip"
	"fmt"
	"io"
)

// Zip writes an archive as it may be kept: its files masked. The error is of an archive
// that cannot be read, or w's own.
func (m *Masker) Zip(archive *zip.Reader, w io.Writer) error {
	out := zip.NewWriter(w)
	for _, f := range archive.File {
		in, err := f.Open()
		if err != nil {
			return fmt.Errorf("reading %s in the archive: %w", f.Name, err)
		}
		to, err := out.CreateHeader(&zip.FileHeader{Name: f.Name, Method: zip.Deflate})
		if err == nil {
			file := m.For()
			_, err = io.Copy(to, NewReader(file, in))
			m.Count += file.Count
		}
		in.Close()
		if err != nil {
			return fmt.Errorf("reading %s in the archive: %w", f.Name, err)
		}
	}
	if err := out.Close(); err != nil {
		return fmt.Errorf("writing the archive: %w", err)
	}
	return nil
}

// InZip counts the secrets in an archive.
func (m *Masker) InZip(archive *zip.Reader) error {
	for _, f := range archive.File {
		in, err := f.Open()
		if err != nil {
			return fmt.Errorf("reading %s in the archive: %w", f.Name, err)
		}
		file := m.For()
		_, err = io.Copy(io.Discard, NewReader(file, in))
		in.Close()
		if m.Count += file.Count; err != nil {
			return fmt.Errorf("reading %s in the archive: %w", f.Name, err)
		}
	}
	return nil
}
