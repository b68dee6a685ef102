-- +goose Up
-- The journal: what people did, in words, with each row as it stood before and
-- after, so that it can be taken back and done again. It also tells what a row
-- was at an earlier version, by which changes from two windows merge or meet.
CREATE TABLE journal (
    id             bigint GENERATED ALWAYS AS IDENTITY,
    studio_id      bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    at             timestamptz NOT NULL,
    who            text NOT NULL,
    says           text NOT NULL CHECK (says <> ''),
    act            text NOT NULL DEFAULT '', -- the sender's own number: a repeat does nothing
    commission_id  bigint,
    bench          boolean NOT NULL,
    kind           text NOT NULL CHECK (kind IN ('did', 'back', 'again')),
    undoes         bigint,
    undone         boolean NOT NULL DEFAULT false,
    rows           jsonb NOT NULL,
    PRIMARY KEY (studio_id, id),
    FOREIGN KEY (studio_id, commission_id) REFERENCES commissions (studio_id, id),
    FOREIGN KEY (studio_id, undoes) REFERENCES journal (studio_id, id)
);
CREATE UNIQUE INDEX journal_by_act ON journal (studio_id, act) WHERE act <> '';
CREATE INDEX journal_by_commission ON journal (studio_id, commission_id, id);
CREATE INDEX journal_by_row ON journal USING gin (rows jsonb_path_ops);

-- Timers outlive the window, the server and the database that began them.
CREATE TABLE timers (
    id             bigint GENERATED ALWAYS AS IDENTITY,
    studio_id      bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    version        bigint NOT NULL DEFAULT 1,
    deleted_at     timestamptz,
    commission_id  bigint,
    op             text NOT NULL DEFAULT '', -- the step that began it, '' for one of one's own
    kind           text NOT NULL CHECK (kind IN ('rest', 'freezer', 'dew', 'open', 'touch', 'lift', 'join', 'own')),
    n              integer NOT NULL DEFAULT 0, -- of a freezer: the fill
    says           text NOT NULL CHECK (says <> ''),
    starts_at      timestamptz NOT NULL,
    rings_at       timestamptz NOT NULL CHECK (rings_at >= starts_at),
    answered_at    timestamptz,
    PRIMARY KEY (studio_id, id),
    FOREIGN KEY (studio_id, commission_id) REFERENCES commissions (studio_id, id)
);
CREATE INDEX timers_open ON timers (studio_id, rings_at) WHERE answered_at IS NULL AND deleted_at IS NULL;

-- Facts of a step beside its times.
ALTER TABLE steps
    ADD COLUMN fills  jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN breaks jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN made   integer CHECK (made BETWEEN 0 AND 100000);

DROP TABLE changes;

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['journal', 'timers'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
        EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
        EXECUTE format('CREATE POLICY own_studio ON %I USING (studio_id = NULLIF(current_setting(''app.studio_id'', true), '''')::bigint) '
            'WITH CHECK (studio_id = NULLIF(current_setting(''app.studio_id'', true), '''')::bigint)', t);
    END LOOP;
    IF EXISTS (SELECT FROM pg_roles WHERE rolname = 'dustyfern_app') THEN
        GRANT SELECT, INSERT, UPDATE, DELETE ON journal, timers TO dustyfern_app;
    END IF;
END $$;
-- +goose StatementEnd
