module orchardworks.example/steelyard/v4

go 1.26
