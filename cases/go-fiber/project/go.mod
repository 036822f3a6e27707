module pressbook

go 1.25.0
