diesel::table! {
    formulas (id) {
        id -> Text,
        name -> Text,
        retired_ms -> Nullable<BigInt>,
    }
}
diesel::table! {
    formula_versions (formula_id, version) {
        formula_id -> Text,
        version -> Integer,
        body -> Text,
        saved_ms -> BigInt,
        style -> Text,
        flour_g -> Double,
    }
}
diesel::table! {
    bakes (id) {
        id -> Text,
        name -> Text,
        style -> Text,
        formula -> Text,
        plan -> Text,
        made_ms -> BigInt,
        day -> Nullable<Text>,
        closed -> Bool,
    }
}
diesel::table! {
    bake_events (bake_id, seq) {
        bake_id -> Text,
        seq -> Integer,
        at_ms -> BigInt,
        kind -> Text,
        body -> Text,
        idempotency_key -> Nullable<Text>,
    }
}
diesel::table! {
    kitchen (id) {
        id -> Integer,
        body -> Text,
    }
}
diesel::table! {
    household_ingredients (id) {
        id -> Text,
        body -> Text,
    }
}
diesel::table! {
    household_pans (id) {
        id -> Text,
        body -> Text,
    }
}
diesel::table! {
    household_words (word) {
        word -> Text,
        said -> Text,
        ingredient -> Text,
    }
}
diesel::joinable!(formula_versions -> formulas (formula_id));
diesel::allow_tables_to_appear_in_same_query!(formulas, formula_versions);
diesel::allow_tables_to_appear_in_same_query!(bakes, bake_events);
diesel::table! {
    leavens (id) {
        id -> Text,
        body -> Text,
        made_ms -> BigInt,
        retired_ms -> Nullable<BigInt>,
    }
}
diesel::table! {
    leaven_events (leaven_id, seq) {
        leaven_id -> Text,
        seq -> Integer,
        at_ms -> BigInt,
        kind -> Text,
        body -> Text,
        idempotency_key -> Nullable<Text>,
    }
}
