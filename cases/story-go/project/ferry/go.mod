module example.org/ferry

go 1.21

require (
	example.org/harbour v0.0.0
	example.org/tidewheel v0.8.2
)

replace (
	example.org/harbour => ../harbour
	example.org/tidewheel => ../../tidewheel
)
