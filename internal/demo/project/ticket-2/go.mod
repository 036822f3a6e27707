module orchardworks.example/ticket/v2

go 1.26
