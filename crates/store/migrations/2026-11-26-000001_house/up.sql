-- Native identifiers, facts and their details clustered by build and order, which track and which part a reading is of,
-- which figure a target is for, a sequence of changes to follow, and what the floor shows of each build.
--
-- The server commits each statement that changes a table by itself, so this can be cut off anywhere and is done again from
-- the start: what was copied is thrown away until the tables change their names, all of them in one statement.
BEGIN NOT ATOMIC
    DECLARE carried, complete, copied INT;
    SELECT COUNT(*) INTO carried FROM information_schema.columns
        WHERE table_schema = DATABASE() AND table_name = 'facts' AND column_name = 'id' AND data_type = 'uuid';
    SELECT COUNT(*) INTO complete FROM information_schema.tables
        WHERE table_schema = DATABASE() AND table_name IN
            ('shell_moves', 'notes', 'signatures', 'concessions', 'target_changes', 'strikes', 'readings', 'facts',
                'builds', 'people');
    SELECT COUNT(*) INTO copied FROM information_schema.tables
        WHERE table_schema = DATABASE() AND table_name = 'new_shell_moves';
    IF carried = 0 AND complete < 10 AND copied = 1 THEN
        -- An earlier version was cut off after the copy, while it dropped the tables.
        DROP TABLE IF EXISTS shell_moves, notes, signatures, concessions, target_changes, strikes, readings, facts,
            builds, people;
        RENAME TABLE new_people TO people, new_builds TO builds, new_facts TO facts, new_readings TO readings,
            new_strikes TO strikes, new_target_changes TO target_changes, new_concessions TO concessions,
            new_signatures TO signatures, new_notes TO notes, new_shell_moves TO shell_moves;
    ELSEIF carried = 0 THEN
        DROP TABLE IF EXISTS new_shell_moves, new_notes, new_signatures, new_concessions, new_target_changes,
            new_strikes, new_readings, new_facts, new_builds, new_people;
        INSERT IGNORE INTO people (id, name) SELECT by_id, by_name FROM facts;
        INSERT IGNORE INTO people (id, name) SELECT opened_by_id, opened_by_name FROM builds;

        CREATE TABLE new_people (
            id UUID NOT NULL PRIMARY KEY,
            name VARCHAR(300) NOT NULL,
            login VARCHAR(60) NULL UNIQUE,
            password_hash VARCHAR(200) NULL,
            role VARCHAR(40) NULL REFERENCES roles (name)
        );
        INSERT INTO new_people SELECT id, name, login, password_hash, role FROM people;

        -- Archived builds leave the floor and stay searchable; putting one away is no fact of it, so that its seal holds.
        CREATE TABLE new_builds (
            id UUID NOT NULL PRIMARY KEY,
            code VARCHAR(24) NOT NULL UNIQUE,
            engine VARCHAR(300) NOT NULL,
            unit VARCHAR(2) NOT NULL,
            layout LONGTEXT NOT NULL CHECK (JSON_VALID(layout)),
            rules LONGTEXT NOT NULL CHECK (JSON_VALID(rules)),
            gauges LONGTEXT NOT NULL CHECK (JSON_VALID(gauges)),
            opened_at BIGINT NOT NULL,
            opened_by_id UUID NOT NULL REFERENCES new_people (id),
            opened_by_name VARCHAR(300) NOT NULL,
            seq INT NOT NULL,
            archived BOOLEAN NOT NULL DEFAULT FALSE,
            archived_at BIGINT NULL,
            archived_by_id UUID NULL REFERENCES new_people (id),
            archived_why VARCHAR(300) NULL,
            INDEX on_the_floor (archived, code)
        );
        INSERT INTO new_builds (id, code, engine, unit, layout, rules, gauges, opened_at, opened_by_id, opened_by_name, seq)
            SELECT id, code, engine, unit, layout, rules, gauges, opened_at, opened_by_id, opened_by_name, seq FROM builds;

        CREATE TABLE new_facts (
            build_id UUID NOT NULL REFERENCES new_builds (id),
            seq INT NOT NULL,
            id UUID NOT NULL UNIQUE,
            at BIGINT NOT NULL,
            by_id UUID NOT NULL REFERENCES new_people (id),
            by_name VARCHAR(300) NOT NULL,
            PRIMARY KEY (build_id, seq)
        );
        INSERT INTO new_facts SELECT build_id, seq, id, at, by_id, by_name FROM facts;

        -- What is neither a size nor a dial is kept as it is written in a file.
        CREATE TABLE new_readings (
            build_id UUID NOT NULL,
            seq INT NOT NULL,
            station VARCHAR(8) NOT NULL,
            feature VARCHAR(40) NOT NULL,
            axial VARCHAR(10) NOT NULL,
            angle INT NOT NULL,
            track INT NULL,
            part VARCHAR(24) NULL,
            size_nm BIGINT NOT NULL,
            dial_nm BIGINT NULL,
            reference_nm BIGINT NULL,
            measure LONGTEXT NULL CHECK (JSON_VALID(measure)),
            gauge VARCHAR(60) NOT NULL,
            raw VARCHAR(120) NOT NULL,
            source VARCHAR(20) NOT NULL,
            forced BOOLEAN NOT NULL,
            taken_at BIGINT NULL,
            session_id UUID NULL REFERENCES new_facts (id),
            part_mc INT NULL,
            gauge_mc INT NULL,
            blind_id UUID NULL REFERENCES new_facts (id),
            PRIMARY KEY (build_id, seq),
            FOREIGN KEY (build_id, seq) REFERENCES new_facts (build_id, seq)
        );
        INSERT INTO new_readings
            SELECT f.build_id, f.seq, r.station, r.feature, r.axial, r.angle, NULL, NULL, r.size_nm, r.dial_nm, r.reference_nm,
                NULL, r.gauge, r.raw, r.source, r.forced, NULL, r.session_id, r.part_mc, r.gauge_mc, r.blind_id
            FROM readings r JOIN facts f ON f.id = r.fact_id;

        CREATE TABLE new_strikes (
            build_id UUID NOT NULL,
            seq INT NOT NULL,
            reading_id UUID NOT NULL UNIQUE REFERENCES new_facts (id),
            reason VARCHAR(300) NOT NULL,
            PRIMARY KEY (build_id, seq),
            FOREIGN KEY (build_id, seq) REFERENCES new_facts (build_id, seq)
        );
        INSERT INTO new_strikes
            SELECT f.build_id, f.seq, s.reading_id, s.reason FROM strikes s JOIN facts f ON f.id = s.fact_id;

        CREATE TABLE new_target_changes (
            build_id UUID NOT NULL,
            seq INT NOT NULL,
            figure VARCHAR(40) NULL,
            station VARCHAR(8) NULL,
            bearing_row VARCHAR(10) NOT NULL,
            rule TEXT NULL CHECK (JSON_VALID(rule)),
            source VARCHAR(20) NOT NULL,
            reason VARCHAR(300) NOT NULL,
            PRIMARY KEY (build_id, seq),
            FOREIGN KEY (build_id, seq) REFERENCES new_facts (build_id, seq)
        );
        INSERT INTO new_target_changes
            SELECT f.build_id, f.seq, NULL, t.station, t.bearing_row, t.rule, t.source, t.reason
            FROM target_changes t JOIN facts f ON f.id = t.fact_id;

        CREATE TABLE new_concessions (
            build_id UUID NOT NULL,
            seq INT NOT NULL,
            figure VARCHAR(40) NULL,
            station VARCHAR(8) NOT NULL,
            state VARCHAR(10) NOT NULL,
            clearance_nm BIGINT NOT NULL,
            low_nm BIGINT NOT NULL,
            aim_nm BIGINT NOT NULL,
            high_nm BIGINT NOT NULL,
            reason VARCHAR(300) NOT NULL,
            PRIMARY KEY (build_id, seq),
            FOREIGN KEY (build_id, seq) REFERENCES new_facts (build_id, seq)
        );
        INSERT INTO new_concessions
            SELECT f.build_id, f.seq, NULL, c.station, c.state, c.clearance_nm, c.low_nm, c.aim_nm, c.high_nm, c.reason
            FROM concessions c JOIN facts f ON f.id = c.fact_id;

        CREATE TABLE new_signatures (
            build_id UUID NOT NULL,
            seq INT NOT NULL,
            role VARCHAR(20) NOT NULL,
            revision INT NOT NULL,
            digest CHAR(64) CHARACTER SET ascii NOT NULL,
            PRIMARY KEY (build_id, seq),
            FOREIGN KEY (build_id, seq) REFERENCES new_facts (build_id, seq)
        );
        INSERT INTO new_signatures
            SELECT f.build_id, f.seq, s.role, s.revision, s.digest FROM signatures s JOIN facts f ON f.id = s.fact_id;

        CREATE TABLE new_notes (
            build_id UUID NOT NULL,
            seq INT NOT NULL,
            kind VARCHAR(20) NOT NULL,
            detail LONGTEXT NOT NULL CHECK (JSON_VALID(detail)),
            PRIMARY KEY (build_id, seq),
            FOREIGN KEY (build_id, seq) REFERENCES new_facts (build_id, seq)
        );
        INSERT INTO new_notes
            SELECT f.build_id, f.seq, n.kind, n.detail FROM notes n JOIN facts f ON f.id = n.fact_id;

        CREATE TABLE new_shell_moves (
            seq BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
            id UUID NOT NULL UNIQUE,
            family VARCHAR(40) CHARACTER SET ascii NOT NULL REFERENCES shell_families (id),
            undersize_nm BIGINT NOT NULL,
            half VARCHAR(10) CHARACTER SET ascii NOT NULL,
            class VARCHAR(20) NOT NULL,
            kind VARCHAR(10) CHARACTER SET ascii NOT NULL,
            change_by INT NOT NULL,
            left_after INT NOT NULL,
            reason VARCHAR(400) NOT NULL,
            by_id UUID NOT NULL REFERENCES new_people (id),
            by_name VARCHAR(300) NOT NULL,
            at_ms BIGINT NOT NULL,
            KEY shell_moves_of_family (family, seq)
        );
        INSERT INTO new_shell_moves
            SELECT seq, id, family, undersize_nm, half, class, kind, change_by, left_after, reason, by_id, by_name, at_ms
            FROM shell_moves;
        RENAME TABLE people TO old_people, new_people TO people, builds TO old_builds, new_builds TO builds, facts TO
            old_facts, new_facts TO facts, readings TO old_readings, new_readings TO readings, strikes TO old_strikes,
            new_strikes TO strikes, target_changes TO old_target_changes, new_target_changes TO target_changes,
            concessions TO old_concessions, new_concessions TO concessions, signatures TO old_signatures,
            new_signatures TO signatures, notes TO old_notes, new_notes TO notes, shell_moves TO old_shell_moves,
            new_shell_moves TO shell_moves;
    END IF;
END;
DROP TABLE IF EXISTS old_shell_moves, old_notes, old_signatures, old_concessions, old_target_changes, old_strikes,
    old_readings, old_facts, old_builds, old_people;

-- What was written, in the order it was: whoever follows remembers the last one.
CREATE TABLE IF NOT EXISTS changes (
    id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
    build_id UUID NOT NULL REFERENCES builds (id),
    seq INT NOT NULL
);
INSERT INTO changes (build_id, seq)
    SELECT id, seq FROM builds WHERE NOT EXISTS (SELECT 1 FROM changes) ORDER BY opened_at;

-- What the floor shows of a build as it was at a fact; never authority, made again when it is missing or behind.
CREATE TABLE IF NOT EXISTS build_summaries (
    build_id UUID NOT NULL PRIMARY KEY REFERENCES builds (id),
    seq INT NOT NULL,
    form INT NOT NULL,
    detail LONGTEXT NOT NULL CHECK (JSON_VALID(detail))
);
