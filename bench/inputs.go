package main

import (
	"bufio"
	"fmt"
	"io"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
)

// testdata holds the samples that the mixed logs are made of.
const testdata = "internal/core/read/testdata"

// samples reads the text samples: those with trouble in them, and the clean.
func samples() (trouble, clean [][]byte, err error) {
	names, err := filepath.Glob(filepath.Join(testdata, "*.log"))
	if err != nil || len(names) == 0 {
		return nil, nil, fmt.Errorf("no samples in %s: run this at the top of the repository", testdata)
	}
	for _, name := range names {
		data, err := os.ReadFile(name)
		if err != nil {
			return nil, nil, err
		}
		if strings.HasPrefix(filepath.Base(name), "clean") {
			clean = append(clean, data)
		} else {
			trouble = append(trouble, data)
		}
	}
	return trouble, clean, nil
}

// writeMix writes a log of at least size bytes: every sample with trouble in
// turn, in a new order each time round, behind quiet times its bytes of clean
// samples picked at random. The same arguments give the same log.
func writeMix(name string, size, quiet int) error {
	trouble, clean, err := samples()
	if err != nil {
		return err
	}
	return writeFile(name, func(w io.Writer) error {
		random := rand.New(rand.NewPCG(7, 7))
		for written := 0; written < size; {
			random.Shuffle(len(trouble), func(i, j int) { trouble[i], trouble[j] = trouble[j], trouble[i] })
			for _, t := range trouble {
				for k := 0; k < quiet*len(t); {
					c := clean[random.IntN(len(clean))]
					w.Write(c)
					k += len(c)
					written += len(c)
				}
				if _, err := w.Write(t); err != nil {
					return err
				}
				written += len(t)
			}
		}
		return nil
	})
}

// writeJUnit writes a report of so many cases, a hundred in a suite, one in a
// hundred failed with a stack trace.
func writeJUnit(name string, cases int) error {
	return writeFile(name, func(w io.Writer) error {
		fmt.Fprintf(w, "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<testsuites>\n")
		for i := range cases {
			suite := i / 100
			if i%100 == 0 {
				fmt.Fprintf(w, "  <testsuite name=\"pantry.Shelf%dTest\" tests=\"%d\" failures=\"1\" errors=\"0\" skipped=\"0\">\n", suite, min(100, cases-i))
			}
			fmt.Fprintf(w, "    <testcase classname=\"pantry.Shelf%dTest\" name=\"holds_%d\" time=\"0.%03d\"", suite, i, i%1000)
			if i%100 == 50 {
				fmt.Fprintf(w, ">\n      <failure message=\"expected: &lt;%d&gt; but was: &lt;1&gt;\" type=\"org.opentest4j.AssertionFailedError\">org.opentest4j.AssertionFailedError: expected: &lt;%d&gt; but was: &lt;1&gt;\n\tat pantry.Shelf%dTest.holds_%d(Shelf%dTest.java:%d)\n</failure>\n    </testcase>\n", i, i, suite, i, suite, i%900+1)
			} else {
				io.WriteString(w, "/>\n")
			}
			if i%100 == 99 || i == cases-1 {
				io.WriteString(w, "  </testsuite>\n")
			}
		}
		_, err := io.WriteString(w, "</testsuites>\n")
		return err
	})
}

func writeFile(name string, write func(w io.Writer) error) error {
	f, err := os.Create(name)
	if err != nil {
		return err
	}
	w := bufio.NewWriterSize(f, 1<<20)
	err = write(w)
	if err == nil {
		err = w.Flush()
	}
	if closed := f.Close(); err == nil {
		err = closed
	}
	return err
}
