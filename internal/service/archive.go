package service

import (
	"archive/tar"
	"archive/zip"
	"bufio"
	"bytes"
	"fmt"
	"io"
	"path"
	"strings"

	"github.com/klauspost/compress/gzip"
)

// tarMark stands 257 bytes into a tar (POSIX.1-1988, ustar).
const tarMark = "ustar"

// packed writes an archive of a source tree as a zip: a tar, gzipped or not, is packed
// anew, anything else is passed on as it is. It takes mostSource bytes at most.
func packed(r io.Reader, w io.Writer) error {
	limited := bufio.NewReaderSize(io.LimitReader(r, mostSource+1), 4<<10)
	in := limited
	if head, _ := in.Peek(2); bytes.Equal(head, []byte{0x1f, 0x8b}) {
		unzipped, err := gzip.NewReader(in)
		if err != nil {
			return bad("the source tree is no archive that can be read: %v", err)
		}
		in = bufio.NewReaderSize(unzipped, 4<<10)
	}
	if head, _ := in.Peek(257 + len(tarMark)); len(head) == 257+len(tarMark) && string(head[257:]) == tarMark {
		return repacked(in, w)
	}
	if in != limited {
		return bad("the source tree is gzipped and no tar: send a zip or a .tar.gz")
	}
	n, err := io.Copy(w, in)
	if err == nil && n > mostSource {
		err = bad("the source tree is larger than %d MiB as an archive: leave out what was generated or installed", mostSource>>20)
	}
	return err
}

// repacked writes a tar as a zip.
func repacked(r io.Reader, w io.Writer) error {
	in, out := tar.NewReader(r), zip.NewWriter(w)
	files, size := 0, int64(0)
	for {
		h, err := in.Next()
		if err == io.EOF {
			break
		}
		if err != nil {
			return bad("the source tree is a tar that cannot be read: %v", err)
		}
		name := strings.TrimPrefix(path.Clean("/"+h.Name), "/")
		if h.Typeflag != tar.TypeReg || name == "" {
			continue
		}
		if files, size = files+1, size+h.Size; files > mostFiles || size > mostTree {
			return bad("the source tree has more than %d files or %d MiB: leave out what was generated or installed", mostFiles, mostTree>>20)
		}
		to, err := out.Create(name)
		if err == nil {
			_, err = io.Copy(to, in)
		}
		if err != nil {
			return fmt.Errorf("keeping the source tree: %w", err)
		}
	}
	return out.Close()
}
