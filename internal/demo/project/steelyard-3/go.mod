module orchardworks.example/steelyard/v3

go 1.26
