module dustyfern

go 1.26.0

ignore ./ui/node_modules

require (
	codeberg.org/go-pdf/fpdf v0.12.0
	github.com/arran4/golang-ical v0.3.4
	github.com/danielgtaylor/huma/v2 v2.37.2
	github.com/go-rod/rod v0.116.2
	github.com/jackc/pgx/v5 v5.12.0
	github.com/labstack/echo/v5 v5.4.4
	github.com/pressly/goose/v3 v3.29.0
	github.com/teambition/rrule-go v1.8.2
	go.bug.st/serial v1.8.0
	gorm.io/driver/postgres v1.6.3
	gorm.io/gorm v1.31.2
)

require (
	github.com/jackc/pgpassfile v1.0.0 // indirect
	github.com/jackc/pgservicefile v0.0.0-20240606120523-5a60cdf6a761 // indirect
	github.com/jackc/puddle/v2 v2.2.3 // indirect
	github.com/jinzhu/inflection v1.0.0 // indirect
	github.com/jinzhu/now v1.1.5 // indirect
	github.com/mfridman/interpolate v0.0.2 // indirect
	github.com/sethvargo/go-retry v0.5.0 // indirect
	github.com/ysmood/fetchup v0.2.3 // indirect
	github.com/ysmood/goob v0.4.0 // indirect
	github.com/ysmood/got v0.40.0 // indirect
	github.com/ysmood/gson v0.7.3 // indirect
	github.com/ysmood/leakless v0.9.0 // indirect
	go.uber.org/multierr v1.11.0 // indirect
	golang.org/x/sync v0.24.0 // indirect
	golang.org/x/sys v0.49.0 // indirect
	golang.org/x/text v0.43.0 // indirect
	golang.org/x/time v0.15.0 // indirect
)
