-- +goose Up
-- Every row belongs to a studio; every key that points to a row of a studio
-- carries the studio too; row-level security is forced for all.

CREATE TABLE studios (
    id              bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    version         bigint NOT NULL DEFAULT 1,
    slug            text NOT NULL UNIQUE CHECK (slug ~ '^[a-z0-9]+(-[a-z0-9]+)*$' AND length(slug) <= 60),
    name            text NOT NULL CHECK (name <> ''),
    time_zone       text NOT NULL DEFAULT 'Europe/London',
    temp_c          double precision NOT NULL CHECK (temp_c BETWEEN 5 AND 40),
    rh_percent      double precision NOT NULL CHECK (rh_percent BETWEEN 5 AND 95),
    freezer_places  integer NOT NULL CHECK (freezer_places BETWEEN 0 AND 1000),
    grams_per_tsp   double precision CHECK (grams_per_tsp BETWEEN 1 AND 8),
    scale_step_g    double precision NOT NULL CHECK (scale_step_g BETWEEN 0.001 AND 50),
    powder          text NOT NULL CHECK (powder IN ('cmc', 'tragacanth')),
    school          text NOT NULL CHECK (school IN ('light', 'modelling', 'extra')),
    breakage        text NOT NULL CHECK (breakage IN ('robust', 'ordinary', 'delicate', 'fragile')),
    words           text NOT NULL CHECK (words IN ('uk', 'us')),
    units           text NOT NULL CHECK (units IN ('metric', 'us')),
    scheme          text NOT NULL CHECK (scheme IN ('light', 'dim', 'system')),
    keys            boolean NOT NULL,
    buffer_minutes  integer NOT NULL CHECK (buffer_minutes BETWEEN 0 AND 10080),
    confidence      double precision NOT NULL CHECK (confidence BETWEEN 0.5 AND 0.99),
    to_darker       integer NOT NULL CHECK (to_darker BETWEEN 0 AND 240),
    to_lighter      integer NOT NULL CHECK (to_lighter BETWEEN 0 AND 240),
    to_white        integer NOT NULL CHECK (to_white BETWEEN 0 AND 240),
    white_from      double precision NOT NULL CHECK (white_from BETWEEN 0 AND 100),
    knead_first     integer NOT NULL CHECK (knead_first BETWEEN 1 AND 240),
    knead_more      integer NOT NULL CHECK (knead_more BETWEEN 0 AND 240),
    put_on_base     double precision NOT NULL CHECK (put_on_base BETWEEN 0 AND 240),
    put_on_small    double precision NOT NULL CHECK (put_on_small BETWEEN 0 AND 60),
    put_on_large    double precision NOT NULL CHECK (put_on_large BETWEEN 0 AND 60),
    settle_minutes  integer NOT NULL CHECK (settle_minutes BETWEEN 1 AND 10080),
    pack_minutes    integer NOT NULL CHECK (pack_minutes BETWEEN 1 AND 240),
    fresh_days      double precision NOT NULL CHECK (fresh_days BETWEEN 0.1 AND 365),
    trays           jsonb NOT NULL DEFAULT '[]',
    formers         jsonb NOT NULL DEFAULT '[]',
    hours           jsonb NOT NULL DEFAULT '[]',
    exceptions      jsonb NOT NULL DEFAULT '[]'
);

CREATE TABLE tools (
    id               bigint GENERATED ALWAYS AS IDENTITY,
    studio_id        bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    version          bigint NOT NULL DEFAULT 1,
    deleted_at       timestamptz,
    name             text NOT NULL CHECK (name <> ''),
    make             text NOT NULL CHECK (make IN ('cavity', 'lace', 'lip')),
    shape            text NOT NULL CHECK (shape IN ('sheet', 'block', 'rod', 'ball', 'dome')),
    cavity_ml        double precision CHECK (cavity_ml BETWEEN 0.01 AND 5000),
    weighed_g        double precision CHECK (weighed_g BETWEEN 0.01 AND 50000),
    length_mm        double precision NOT NULL CHECK (length_mm BETWEEN 0.1 AND 10000),
    width_mm         double precision NOT NULL CHECK (width_mm BETWEEN 0.1 AND 10000),
    depth_mm         double precision NOT NULL CHECK (depth_mm BETWEEN 0.2 AND 60),
    detail_mm        double precision CHECK (detail_mm BETWEEN 0.01 AND 100),
    undercut         boolean NOT NULL,
    patterned        boolean NOT NULL,
    branching        boolean NOT NULL,
    chilled          boolean NOT NULL,
    freeze_minutes   double precision CHECK (freeze_minutes BETWEEN 0 AND 10080),
    cavities         integer NOT NULL CHECK (cavities BETWEEN 1 AND 1000),
    copies           integer NOT NULL CHECK (copies BETWEEN 1 AND 1000),
    fill_minutes     double precision CHECK (fill_minutes BETWEEN 0.01 AND 240),
    unmould_minutes  double precision CHECK (unmould_minutes BETWEEN 0.01 AND 240),
    PRIMARY KEY (studio_id, id)
);

CREATE TABLE lots (
    id               bigint GENERATED ALWAYS AS IDENTITY,
    studio_id        bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    version          bigint NOT NULL DEFAULT 1,
    deleted_at       timestamptz,
    name             text NOT NULL CHECK (name <> ''),
    kind             text NOT NULL,
    mass_g           double precision NOT NULL CHECK (mass_g BETWEEN 0 AND 1e6),
    grade            integer CHECK (grade BETWEEN 1 AND 5),
    opened_on        date,
    swatch           text CHECK (swatch ~ '^#[0-9A-F]{6}$'),
    allergens        jsonb NOT NULL DEFAULT '[]',
    PRIMARY KEY (studio_id, id)
);

CREATE TABLE commissions (
    id             bigint GENERATED ALWAYS AS IDENTITY,
    studio_id      bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    version        bigint NOT NULL DEFAULT 1,
    deleted_at     timestamptz,
    title          text NOT NULL CHECK (title <> ''),
    customer       text NOT NULL DEFAULT '',
    hand_over      timestamptz,
    cake_ready     timestamptz,
    carrier        text NOT NULL CHECK (carrier IN ('tiers', 'smallCakes', 'biscuits')),
    tiers          jsonb NOT NULL DEFAULT '[]',
    count          integer CHECK (count BETWEEN 0 AND 100000),
    across_mm      double precision CHECK (across_mm BETWEEN 0.1 AND 10000),
    domed          boolean NOT NULL,
    guests         text NOT NULL DEFAULT '',
    children       boolean NOT NULL,
    allergies      jsonb NOT NULL DEFAULT '[]',
    no_alcohol     boolean NOT NULL,
    no_gelatine    boolean NOT NULL,
    notes          text NOT NULL DEFAULT '',
    state          text NOT NULL CHECK (state IN ('open', 'aside', 'handedOver')),
    PRIMARY KEY (studio_id, id)
);

CREATE TABLE pieces (
    id              bigint GENERATED ALWAYS AS IDENTITY,
    studio_id       bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    version         bigint NOT NULL DEFAULT 1,
    deleted_at      timestamptz,
    commission_id   bigint NOT NULL,
    position        integer NOT NULL,
    name            text NOT NULL CHECK (name <> ''),
    wanted          integer NOT NULL CHECK (wanted BETWEEN 0 AND 5000),
    mould_id        bigint,
    colour          text NOT NULL DEFAULT '',
    swatch          text NOT NULL CHECK (swatch ~ '^#[0-9A-F]{6}$'),
    eaten           text NOT NULL CHECK (eaten IN ('mouthful', 'nibbled', 'shown')),
    knife_passes    boolean NOT NULL,
    stance          text NOT NULL CHECK (stance IN ('lying', 'upright')),
    height_mm       double precision CHECK (height_mm BETWEEN 0.1 AND 10000),
    bent            boolean NOT NULL,
    joined          text NOT NULL CHECK (joined IN ('pliable', 'semiDry', 'dry', 'cold')),
    support         text NOT NULL CHECK (support IN ('board', 'foam', 'cup', 'dowel', 'hook', 'rack')),
    carries         boolean NOT NULL,
    bagged          boolean NOT NULL,
    handled_soon    boolean NOT NULL,
    edge_mm         double precision CHECK (edge_mm BETWEEN 0.01 AND 20),
    dusted          boolean NOT NULL,
    chill           boolean NOT NULL,
    held_up         boolean NOT NULL,
    way_out         text NOT NULL DEFAULT '' CHECK (way_out IN ('', 'splitThePiece', 'backIt')),
    peg_percent     double precision CHECK (peg_percent BETWEEN 0 AND 10),
    school          text NOT NULL DEFAULT '' CHECK (school IN ('', 'light', 'modelling', 'extra')),
    dough           text NOT NULL DEFAULT '',
    trial_g         double precision CHECK (trial_g BETWEEN 0.01 AND 50000),
    trial_low_g     double precision CHECK (trial_low_g BETWEEN 0.01 AND 50000),
    trial_high_g    double precision CHECK (trial_high_g BETWEEN 0.01 AND 50000),
    trial_text      text NOT NULL DEFAULT '',
    trial_estimate  boolean NOT NULL,
    PRIMARY KEY (studio_id, id),
    FOREIGN KEY (studio_id, commission_id) REFERENCES commissions (studio_id, id),
    FOREIGN KEY (studio_id, mould_id) REFERENCES tools (studio_id, id)
);
CREATE INDEX pieces_by_commission ON pieces (studio_id, commission_id, position);

-- A step of a chain as it stands in the plan, with what to look at, what can
-- hurt, and where good makers differ the ways with their reasons. Rows with an
-- actual start are facts and are never planned again.
CREATE TABLE steps (
    id             bigint GENERATED ALWAYS AS IDENTITY,
    studio_id      bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    version        bigint NOT NULL DEFAULT 1,
    commission_id  bigint NOT NULL,
    piece_id       bigint,
    op             text NOT NULL,
    kind           text NOT NULL,
    title          text NOT NULL,
    attended       boolean NOT NULL,
    planned_start  timestamptz NOT NULL,
    planned_end    timestamptz NOT NULL CHECK (planned_end >= planned_start),
    actual_start   timestamptz,
    actual_end     timestamptz CHECK (actual_end >= actual_start),
    says           jsonb NOT NULL DEFAULT '[]',
    checks         jsonb NOT NULL DEFAULT '[]',
    cautions       jsonb NOT NULL DEFAULT '[]',
    ways           jsonb NOT NULL DEFAULT '[]',
    figures        jsonb NOT NULL DEFAULT '[]',
    planned        jsonb NOT NULL DEFAULT '{}',
    PRIMARY KEY (studio_id, id),
    UNIQUE (studio_id, op),
    FOREIGN KEY (studio_id, commission_id) REFERENCES commissions (studio_id, id),
    FOREIGN KEY (studio_id, piece_id) REFERENCES pieces (studio_id, id)
);
CREATE INDEX steps_by_commission ON steps (studio_id, commission_id, planned_start);

-- The one plan for all open commissions, with the hash of what it was made from.
CREATE TABLE plans (
    studio_id  bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    hash       text NOT NULL,
    made_at    timestamptz NOT NULL,
    summary    jsonb NOT NULL,
    PRIMARY KEY (studio_id)
);

-- What was changed, field by field: it lets changes to different fields of one
-- row merge, and tells what to put back.
CREATE TABLE changes (
    id           bigint GENERATED ALWAYS AS IDENTITY,
    studio_id    bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    noun         text NOT NULL,
    row_id       bigint NOT NULL,
    row_version  bigint NOT NULL,
    at           timestamptz NOT NULL,
    fields       jsonb NOT NULL,
    PRIMARY KEY (studio_id, id)
);
CREATE INDEX changes_by_row ON changes (studio_id, noun, row_id, row_version);

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['tools', 'lots', 'commissions', 'pieces', 'steps', 'plans', 'changes'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
        EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY own_studio ON %I USING (studio_id = NULLIF(current_setting(''app.studio_id'', true), '''')::bigint) '
            'WITH CHECK (studio_id = NULLIF(current_setting(''app.studio_id'', true), '''')::bigint)', t);
    END LOOP;
END $$;
-- +goose StatementEnd

-- A studio is found by its address before it is entered, so all may be read;
-- only the one that was entered may be changed. A new one may be made.
ALTER TABLE studios ENABLE ROW LEVEL SECURITY;
ALTER TABLE studios FORCE ROW LEVEL SECURITY;
CREATE POLICY find_studio ON studios FOR SELECT USING (true);
CREATE POLICY make_studio ON studios FOR INSERT WITH CHECK (true);
CREATE POLICY change_studio ON studios FOR UPDATE USING (id = NULLIF(current_setting('app.studio_id', true), '')::bigint);

-- The application's role is made by whoever owns the database (the private
-- cluster does; for another server see README) and gets the tables only.
-- +goose StatementBegin
DO $$
BEGIN
    IF EXISTS (SELECT FROM pg_roles WHERE rolname = 'dustyfern_app') THEN
        GRANT USAGE ON SCHEMA public TO dustyfern_app;
        GRANT SELECT, INSERT, UPDATE ON studios TO dustyfern_app;
        GRANT SELECT, INSERT, UPDATE, DELETE ON tools, lots, commissions, pieces, steps, plans, changes TO dustyfern_app;
    END IF;
END $$;
-- +goose StatementEnd
