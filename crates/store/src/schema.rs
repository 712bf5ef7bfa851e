//! The tables, as the migrations make them.

#![allow(missing_docs)]

diesel::table! {
    roles (name) {
        name -> Varchar,
        open_builds -> Bool,
        measure -> Bool,
        set_targets -> Bool,
        concede -> Bool,
        concede_tight -> Bool,
        sign_assembler -> Bool,
        sign_checker -> Bool,
        correct_shelf -> Bool,
        strike_others -> Bool,
        run_shop -> Bool,
        version -> Integer,
    }
}

diesel::table! {
    shop_settings (name) {
        name -> Varchar,
        detail -> Text,
        version -> Integer,
    }
}

diesel::table! {
    people (id) {
        id -> Varchar,
        name -> Varchar,
        login -> Nullable<Varchar>,
        password_hash -> Nullable<Varchar>,
        role -> Nullable<Varchar>,
        disabled -> Bool,
        version -> Integer,
    }
}

diesel::table! {
    sessions (id) {
        id -> Varchar,
        data -> Text,
        expires_at -> BigInt,
        person_id -> Nullable<Varchar>,
        begun_at -> BigInt,
        seen_at -> BigInt,
        browser -> Nullable<Varchar>,
        address -> Nullable<Varchar>,
    }
}

diesel::table! {
    sign_in_tries (login, place) {
        login -> Varchar,
        place -> Varchar,
        failures -> Integer,
        last_at -> BigInt,
    }
}

diesel::table! {
    known_browsers (token) {
        token -> Varchar,
        person_id -> Varchar,
        seen_at -> BigInt,
    }
}

diesel::table! {
    invitations (token) {
        token -> Varchar,
        person_id -> Varchar,
        ends_at -> BigInt,
    }
}

diesel::table! {
    shop_log (seq) {
        seq -> BigInt,
        at_ms -> BigInt,
        by_id -> Nullable<Varchar>,
        by_name -> Varchar,
        kind -> Varchar,
        detail -> Text,
    }
}

diesel::table! {
    gauges (id) {
        id -> Varchar,
        unit -> Varchar,
        name -> Varchar,
        serial -> Nullable<Varchar>,
        measures -> Varchar,
        resolution_nm -> BigInt,
        repeatability_nm -> BigInt,
        calibration_nm -> BigInt,
        place -> Integer,
        kind -> Nullable<Varchar>,
        from_nm -> Nullable<BigInt>,
        to_nm -> Nullable<BigInt>,
        calibrated -> Nullable<Varchar>,
        due -> Nullable<Varchar>,
        people_nm -> Nullable<BigInt>,
        version -> Integer,
    }
}

diesel::table! {
    engine_patterns (id) {
        id -> Varchar,
        engine -> Varchar,
        unit -> Varchar,
        layout -> Text,
        target -> Text,
        rod_target -> Nullable<Text>,
    }
}

diesel::table! {
    builds (id) {
        id -> Varchar,
        code -> Varchar,
        engine -> Varchar,
        unit -> Varchar,
        layout -> Text,
        rules -> Text,
        gauges -> Text,
        opened_at -> BigInt,
        opened_by_id -> Varchar,
        opened_by_name -> Varchar,
        seq -> Integer,
        archived -> Bool,
        archived_at -> Nullable<BigInt>,
        archived_by_id -> Nullable<Varchar>,
        archived_why -> Nullable<Varchar>,
    }
}

diesel::table! {
    facts (build_id, seq) {
        build_id -> Varchar,
        seq -> Integer,
        id -> Varchar,
        at -> BigInt,
        by_id -> Varchar,
        by_name -> Varchar,
    }
}

diesel::table! {
    readings (build_id, seq) {
        build_id -> Varchar,
        seq -> Integer,
        station -> Varchar,
        feature -> Varchar,
        axial -> Varchar,
        angle -> Integer,
        track -> Nullable<Integer>,
        part -> Nullable<Varchar>,
        size_nm -> BigInt,
        dial_nm -> Nullable<BigInt>,
        reference_nm -> Nullable<BigInt>,
        measure -> Nullable<Text>,
        gauge -> Varchar,
        raw -> Varchar,
        source -> Varchar,
        forced -> Bool,
        taken_at -> Nullable<BigInt>,
        session_id -> Nullable<Varchar>,
        part_mc -> Nullable<Integer>,
        gauge_mc -> Nullable<Integer>,
        blind_id -> Nullable<Varchar>,
        zero_source -> Nullable<Varchar>,
    }
}

diesel::table! {
    strikes (build_id, seq) {
        build_id -> Varchar,
        seq -> Integer,
        reading_id -> Varchar,
        reason -> Varchar,
    }
}

diesel::table! {
    target_changes (build_id, seq) {
        build_id -> Varchar,
        seq -> Integer,
        figure -> Nullable<Varchar>,
        station -> Nullable<Varchar>,
        rule -> Nullable<Text>,
        source -> Varchar,
        reason -> Varchar,
        wear -> Nullable<Text>,
        lifted -> Nullable<Text>,
        made_of -> Nullable<Text>,
        bearing_row -> Varchar,
        place_kind -> Nullable<Varchar>,
    }
}

diesel::table! {
    pictures (build_id, digest) {
        build_id -> Varchar,
        digest -> Varchar,
        jpeg -> Mediumblob,
    }
}

diesel::table! {
    notes (build_id, seq) {
        build_id -> Varchar,
        seq -> Integer,
        kind -> Varchar,
        detail -> Text,
    }
}

diesel::table! {
    seal_ledger (number) {
        number -> Integer,
        kind -> Varchar,
        about -> Varchar,
        seq -> Integer,
        text -> Varchar,
        at_ms -> BigInt,
        link -> Varchar,
    }
}

diesel::table! {
    changes (id) {
        id -> BigInt,
        build_id -> Varchar,
        seq -> Integer,
    }
}

diesel::table! {
    build_summaries (build_id) {
        build_id -> Varchar,
        seq -> Integer,
        form -> Integer,
        detail -> Text,
    }
}

diesel::table! {
    shell_families (id) {
        id -> Varchar,
        place -> Integer,
        detail -> Text,
        version -> Integer,
        kind -> Varchar,
    }
}

diesel::table! {
    shell_stock (family, undersize_nm, half, class) {
        family -> Varchar,
        undersize_nm -> BigInt,
        half -> Varchar,
        class -> Varchar,
        count -> Integer,
        place -> Varchar,
    }
}

diesel::table! {
    shell_moves (seq) {
        seq -> BigInt,
        id -> Varchar,
        family -> Varchar,
        undersize_nm -> BigInt,
        half -> Varchar,
        class -> Varchar,
        kind -> Varchar,
        change_by -> Integer,
        left_after -> Integer,
        reason -> Varchar,
        by_id -> Varchar,
        by_name -> Varchar,
        at_ms -> BigInt,
    }
}

diesel::table! {
    concessions (build_id, seq) {
        build_id -> Varchar,
        seq -> Integer,
        figure -> Nullable<Varchar>,
        station -> Varchar,
        state -> Varchar,
        clearance_nm -> BigInt,
        low_nm -> BigInt,
        aim_nm -> BigInt,
        high_nm -> BigInt,
        reason -> Varchar,
        gate -> Nullable<Varchar>,
    }
}

diesel::table! {
    signatures (build_id, seq) {
        build_id -> Varchar,
        seq -> Integer,
        role -> Varchar,
        revision -> Integer,
        digest -> Varchar,
        mark -> Nullable<Varchar>,
    }
}

diesel::joinable!(build_summaries -> builds (build_id));

diesel::allow_tables_to_appear_in_same_query!(
    roles,
    shop_settings,
    people,
    sessions,
    sign_in_tries,
    known_browsers,
    invitations,
    shop_log,
    gauges,
    engine_patterns,
    builds,
    facts,
    readings,
    strikes,
    target_changes,
    concessions,
    signatures,
    notes,
    pictures,
    changes,
    build_summaries,
    shell_families,
    shell_stock,
    shell_moves,
    seal_ledger,
);
