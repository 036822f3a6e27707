module orchardworks.example/ticket

go 1.26
