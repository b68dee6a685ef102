-- +goose Up
-- A tool may have a photo, with the places marked that hands must know. A photo is
-- never changed: another one is another row, so that taking back finds the old one.
CREATE TABLE photos (
    id         bigint GENERATED ALWAYS AS IDENTITY,
    studio_id  bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    jpeg       bytea NOT NULL CHECK (octet_length(jpeg) BETWEEN 1 AND 1000000),
    PRIMARY KEY (studio_id, id)
);
ALTER TABLE tools
    ADD COLUMN photo bigint,
    ADD COLUMN marks jsonb NOT NULL DEFAULT '[]',
    ADD FOREIGN KEY (studio_id, photo) REFERENCES photos (studio_id, id);
-- +goose StatementBegin
DO $$
BEGIN
    ALTER TABLE photos ENABLE ROW LEVEL SECURITY;
    ALTER TABLE photos FORCE ROW LEVEL SECURITY;
    CREATE POLICY own_studio ON photos USING (studio_id = NULLIF(current_setting('app.studio_id', true), '')::bigint)
        WITH CHECK (studio_id = NULLIF(current_setting('app.studio_id', true), '')::bigint);
    IF EXISTS (SELECT FROM pg_roles WHERE rolname = 'dustyfern_app') THEN
        GRANT SELECT, INSERT, UPDATE, DELETE ON photos TO dustyfern_app;
    END IF;
END $$;
-- +goose StatementEnd
