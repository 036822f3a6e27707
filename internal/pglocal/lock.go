package pglocal

import (
	"fmt"
	"os"
	"syscall"
)

// Lock holds a file's lock until unlock, and waits while another process holds
// it: two services that start at once make one database.
func Lock(name string) (unlock func(), err error) {
	f, err := os.OpenFile(name, os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, fmt.Errorf("locking the data folder: %w", err)
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX); err != nil {
		f.Close()
		return nil, fmt.Errorf("locking the data folder: %w", err)
	}
	return func() { f.Close() }, nil
}
