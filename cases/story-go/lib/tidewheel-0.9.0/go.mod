module example.org/tidewheel

go 1.21
