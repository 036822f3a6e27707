module studio.example/rota

go 1.22

require claywork.example/kiln v0.0.0

replace claywork.example/kiln => ../kiln
