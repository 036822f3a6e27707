-- Parts the tables that grow by the hash of the upgrade, eight ways, with all that is in them.
-- Run it once, with every service stopped, as the owner of the tables:
--     psql "$UNICAUSA_DATABASE_URL" --single-transaction --set ON_ERROR_STOP=1 --file docs/partitions.sql
-- On a sharded PostgreSQL distribute the same tables by upgrade_id instead, and keep the others on
-- every node.
DO $$
DECLARE
    name text;
    last bigint;
BEGIN
    FOREACH name IN ARRAY ARRAY['chunk', 'finding', 'occurrence', 'test_outcome', 'symptom', 'event'] LOOP
        EXECUTE format('ALTER TABLE %I RENAME TO %I', name, name || '_whole');
        EXECUTE format('CREATE TABLE %I (LIKE %I INCLUDING ALL) PARTITION BY HASH (upgrade_id)', name, name || '_whole');
        FOR part IN 0..7 LOOP
            EXECUTE format('CREATE TABLE %I PARTITION OF %I FOR VALUES WITH (MODULUS 8, REMAINDER %s)', name || '_' || part, name, part);
        END LOOP;
        EXECUTE format('INSERT INTO %I OVERRIDING SYSTEM VALUE SELECT * FROM %I', name, name || '_whole');
        IF name IN ('symptom', 'event') THEN -- numbers go on where they were
            EXECUTE format('SELECT coalesce(max(id), 0) FROM %I', name || '_whole') INTO last;
            PERFORM setval(pg_get_serial_sequence(name, 'id'), last + 1, false);
        END IF;
        EXECUTE format('DROP TABLE %I', name || '_whole');
        EXECUTE format('ALTER TABLE %I ADD FOREIGN KEY (upgrade_id) REFERENCES upgrade', name);
    END LOOP;
    ALTER TABLE chunk ADD FOREIGN KEY (input_id) REFERENCES input ON DELETE CASCADE;
    ALTER TABLE finding ADD FOREIGN KEY (run_id) REFERENCES run ON DELETE CASCADE;
    ALTER TABLE occurrence ADD FOREIGN KEY (run_id) REFERENCES run ON DELETE CASCADE;
    ALTER TABLE test_outcome ADD FOREIGN KEY (run_id) REFERENCES run ON DELETE CASCADE;
    ALTER TABLE symptom ADD FOREIGN KEY (cause_id) REFERENCES cause;
END $$;
