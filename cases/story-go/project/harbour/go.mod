module example.org/harbour

go 1.21

require example.org/tidewheel v0.8.2

replace example.org/tidewheel => ../../tidewheel
