-- +goose Up
-- Where pieces dry may be a place of its own, with its trays and its air; air is read by the
-- minute and kept by the hour; what hands do to pieces while they dry is kept with the step;
-- what was seen of them is a note, and what notes teach is kept beside them.
CREATE TABLE racks (
    id          bigint GENERATED ALWAYS AS IDENTITY,
    studio_id   bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    version     bigint NOT NULL DEFAULT 1,
    deleted_at  timestamptz,
    name        text NOT NULL CHECK (name <> ''),
    temp_c      double precision NOT NULL CHECK (temp_c BETWEEN 5 AND 40),
    rh_percent  double precision NOT NULL CHECK (rh_percent BETWEEN 5 AND 95),
    air_ms      double precision NOT NULL DEFAULT 0.05,
    sensor      text NOT NULL DEFAULT '',
    trays       jsonb NOT NULL DEFAULT '[]',
    room        jsonb NOT NULL DEFAULT '[]',
    PRIMARY KEY (studio_id, id)
);
-- Rack 0 is the kitchen itself. Minutes are kept for two weeks, hours for good.
CREATE TABLE readings (
    studio_id   bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    rack_id     bigint NOT NULL DEFAULT 0,
    at          timestamptz NOT NULL,
    temp_c      real NOT NULL,
    rh_percent  real NOT NULL,
    bad         boolean NOT NULL DEFAULT false,
    PRIMARY KEY (studio_id, rack_id, at)
);
CREATE INDEX readings_by_age ON readings (studio_id, at);
CREATE TABLE reading_hours (
    studio_id   bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    rack_id     bigint NOT NULL DEFAULT 0,
    at          timestamptz NOT NULL,
    temp_c      real,
    rh_percent  real,
    low_rh      real,
    high_rh     real,
    n           integer NOT NULL,
    bad         integer NOT NULL DEFAULT 0,
    last_at     timestamptz,
    PRIMARY KEY (studio_id, rack_id, at)
);
CREATE INDEX reading_hours_by_age ON reading_hours (studio_id, at);
CREATE TABLE notes (
    id             bigint GENERATED ALWAYS AS IDENTITY,
    studio_id      bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    version        bigint NOT NULL DEFAULT 1,
    deleted_at     timestamptz,
    at             timestamptz NOT NULL,
    who            text NOT NULL DEFAULT '',
    commission_id  bigint,
    piece_id       bigint,
    op             text NOT NULL DEFAULT '',
    name           text NOT NULL DEFAULT '',
    what           text NOT NULL CHECK (what <> ''),
    count          integer NOT NULL DEFAULT 0 CHECK (count >= 0),
    grams          double precision,
    from_grams     double precision,
    says           text NOT NULL DEFAULT '',
    photo          bigint,
    tool           text NOT NULL DEFAULT '',
    technique      text NOT NULL DEFAULT '',
    paste          text NOT NULL DEFAULT '',
    gum_percent    double precision NOT NULL DEFAULT 0,
    shape          text NOT NULL DEFAULT '',
    thickness_mm   double precision NOT NULL DEFAULT 0,
    support        text NOT NULL DEFAULT '',
    rack           text NOT NULL DEFAULT '',
    temp_c         double precision NOT NULL DEFAULT 0,
    rh_percent     double precision NOT NULL DEFAULT 0,
    hours          double precision NOT NULL DEFAULT 0,
    stage          text NOT NULL DEFAULT '',
    model_hours    double precision NOT NULL DEFAULT 0,
    low_hours      double precision NOT NULL DEFAULT 0,
    mid_hours      double precision NOT NULL DEFAULT 0,
    high_hours     double precision NOT NULL DEFAULT 0,
    left_out       boolean NOT NULL DEFAULT false,
    PRIMARY KEY (studio_id, id),
    FOREIGN KEY (studio_id, commission_id) REFERENCES commissions (studio_id, id),
    FOREIGN KEY (studio_id, photo) REFERENCES photos (studio_id, id)
);
CREATE INDEX notes_by_time ON notes (studio_id, at DESC, id DESC) WHERE deleted_at IS NULL;
CREATE INDEX notes_by_piece ON notes (studio_id, name, at DESC) WHERE deleted_at IS NULL;
CREATE INDEX notes_by_op ON notes (studio_id, op) WHERE deleted_at IS NULL;
CREATE INDEX notes_that_teach ON notes (studio_id, at DESC, id DESC) WHERE deleted_at IS NULL AND model_hours > 0;
CREATE TABLE beliefs (
    studio_id   bigint PRIMARY KEY DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    doc         jsonb NOT NULL
);
ALTER TABLE studios ADD COLUMN air_ms double precision NOT NULL DEFAULT 0.05;
ALTER TABLE studios ADD COLUMN sensor text NOT NULL DEFAULT '';
ALTER TABLE studios ADD COLUMN expects jsonb NOT NULL DEFAULT '[]';
ALTER TABLE pieces ADD COLUMN rack bigint;
ALTER TABLE steps ADD COLUMN tended jsonb;
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['racks', 'readings', 'reading_hours', 'notes', 'beliefs'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
        EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY own_studio ON %I USING (studio_id = NULLIF(current_setting(''app.studio_id'', true), '''')::bigint) WITH CHECK (studio_id = NULLIF(current_setting(''app.studio_id'', true), '''')::bigint)', t);
        IF EXISTS (SELECT FROM pg_roles WHERE rolname = 'dustyfern_app') THEN
            EXECUTE format('GRANT SELECT, INSERT, UPDATE, DELETE ON %I TO dustyfern_app', t);
        END IF;
    END LOOP;
END $$;
-- +goose StatementEnd
