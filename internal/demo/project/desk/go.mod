module coop.example/orchard-desk

go 1.26

require orchardworks.example/ticket v1.4.0

replace orchardworks.example/ticket => ../ticket-1.4
