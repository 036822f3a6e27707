module example.org/steps

go 1.21
