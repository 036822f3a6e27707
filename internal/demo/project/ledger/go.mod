module coop.example/orchard-ledger

go 1.26

require orchardworks.example/steelyard/v3 v3.7.0

replace orchardworks.example/steelyard/v3 => ../steelyard-3
