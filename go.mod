module dustyfern

go 1.26

ignore ./ui/node_modules
