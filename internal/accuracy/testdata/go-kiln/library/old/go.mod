module claywork.example/kiln

go 1.22
