use actix_web::web::{Data, Json};
use cerealis_core::{
    formula::{FormulaBody, FormulaDraft, bake_in},
    input::{InputErrors, Pointer},
    oven::{Bake, BakeBody, Shape, Vessel, advise, compare, find, near},
};
use serde::Deserialize;
use serde_json::{Map, Value, json};

use super::{findings, working};
use crate::{
    State,
    edge::{Failure, Sent, on_disk},
};

/// The bake's own fields beside `formula`, `style` and `compare`; spelled out so that an unknown one is refused.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Body {
    formula: Option<FormulaBody>,
    style: Option<String>,
    compare: Option<bool>,
    piece_g: Option<f64>,
    pieces: Option<f64>,
    arrangement: Option<String>,
    shape: Option<String>,
    vessel: Option<String>,
    lid: Option<bool>,
    hydration_pct: Option<f64>,
    sugar_pct: Option<f64>,
    fat_pct: Option<f64>,
    egg_pct: Option<f64>,
    milk_pct: Option<f64>,
    fruit_pct: Option<f64>,
    wholegrain_pct: Option<f64>,
    rye_pct: Option<f64>,
    gluten_free: Option<bool>,
    glaze: Option<String>,
    dough_c: Option<f64>,
    fan: Option<bool>,
    oven_offset_c: Option<f64>,
    altitude_m: Option<f64>,
    colour: Option<String>,
    crust: Option<String>,
    set_c: Option<f64>,
    thickness_cm: Option<f64>,
    steam_min: Option<f64>,
    lid_off_min: Option<f64>,
    fall_to_c: Option<f64>,
    fall_after_min: Option<f64>,
    room_c: Option<f64>,
    hot_k: Option<f64>,
}

impl Body {
    fn bake(&self) -> BakeBody {
        BakeBody {
            piece_g: self.piece_g,
            pieces: self.pieces,
            arrangement: self.arrangement.clone(),
            shape: self.shape.clone(),
            vessel: self.vessel.clone(),
            lid: self.lid,
            hydration_pct: self.hydration_pct,
            sugar_pct: self.sugar_pct,
            fat_pct: self.fat_pct,
            egg_pct: self.egg_pct,
            milk_pct: self.milk_pct,
            fruit_pct: self.fruit_pct,
            wholegrain_pct: self.wholegrain_pct,
            rye_pct: self.rye_pct,
            gluten_free: self.gluten_free,
            glaze: self.glaze.clone(),
            dough_c: self.dough_c,
            fan: self.fan,
            oven_offset_c: self.oven_offset_c,
            altitude_m: self.altitude_m,
            colour: self.colour.clone(),
            crust: self.crust.clone(),
            set_c: self.set_c,
            thickness_cm: self.thickness_cm,
            steam_min: self.steam_min,
            lid_off_min: self.lid_off_min,
            fall_to_c: self.fall_to_c,
            fall_after_min: self.fall_after_min,
            room_c: self.room_c,
            hot_k: self.hot_k,
        }
    }
}

pub async fn call(state: Data<State>, Sent(body): Sent<Body>) -> Result<Json<Value>, Failure> {
    let t = &state.tables();
    let mut kitchen = on_disk(&state.db, cerealis_store::kitchen::get).await?;
    kitchen.oven.offset_c = body.oven_offset_c.or(kitchen.oven.offset_c);
    kitchen.oven.fan = body.fan.unwrap_or(kitchen.oven.fan);
    let mut base = Bake { piece_g: f64::NAN, ..Bake::default() };
    let mut style = None;
    let mut take = |f: FormulaDraft, weight: bool, at: &str| -> Result<(), InputErrors> {
        let formula = f.check(&t.pantry).map_err(|e| e.under(&Pointer::root().at(at)))?;
        let a = formula.analyse(&t.pantry, &t.styles);
        let of = bake_in(&a, &kitchen, &t.pantry);
        // A style alone says nothing of shape and vessel.
        let of = if weight { of } else { Bake { shape: Shape::Ball, vessel: Vessel::Sheet, ..of } };
        let told = formula.pieces.as_ref().is_some_and(|p| p.piece_g.is_some());
        base = Bake { piece_g: if weight && told { of.piece_g } else { f64::NAN }, ..of };
        style = Some(a.style.id.word());
        Ok(())
    };
    match (&body.formula, &body.style) {
        (Some(f), _) => take(FormulaDraft::from(f.clone()), true, "formula")?,
        (None, Some(word)) => {
            let id = cerealis_core::formula::StyleId::from_word(word)
                .ok_or_else(|| InputErrors::one(Pointer::root().at("style"), format!("“{word}” is no style of dough.")))?;
            take(example(&t.styles.get(id).example), false, "style")?;
            style = Some(id.word());
        }
        (None, None) => {}
    }
    let bake = body.bake().over(base.in_kitchen(&kitchen))?;
    let a = advise(&bake, &t.oven);
    let found = find(&bake, &a, &t.oven);
    let mut answer = json!({
        "bake_class": a.class, "set_c": a.set_c, "status": a.status, "minutes": a.minutes, "minutes_low": a.minutes_low, "minutes_high": a.minutes_high,
        "core_target_c": a.core_target_c, "bake_loss_pct": a.loss_pct, "events": a.events(), "curve": a.curve, "findings": findings(&found), "working": working(&a.working()),
        "practice": near(&bake, a.set_c, &t.oven).iter().map(|n| json!({ "id": n.id, "what": n.what, "set_c": n.set_c, "minutes": [n.minutes.0, n.minutes.1] })).collect::<Vec<_>>(),
        "assumed": assumed(&body, &bake, &a),
    });
    if let Some(object) = answer.as_object_mut() {
        let mut put = |name: &str, value: Option<Value>| {
            if let Some(value) = value {
                object.insert(name.to_owned(), value);
            }
        };
        put("style", style.map(|s| json!(s)));
        put("meets", a.meets.map(|m| json!(m)));
        put("fall_to_c", a.turns.first().map(|turn| json!(turn.to_c)));
        put("sides", cerealis_core::oven::sides(&bake, a.set_c, &t.oven).map(|s| json!(s)));
        let with_fan =
            (body.compare.unwrap_or(false) && !bake.fan).then(|| cerealis_core::oven::fan_equivalent(&bake, a.set_c, &t.oven)).flatten();
        put("fan_c", with_fan.map(|(c, _)| json!(c)));
        put("settings", body.compare.unwrap_or(false).then(|| json!(compare(&bake, a.set_c, &t.oven))));
    }
    Ok(Json(answer))
}

/// `wheat-bread 100; water 68 @stage` of the styles table.
fn example(text: &str) -> FormulaDraft {
    let lines = text.split(';').filter_map(|part| {
        let (part, stage) = part.split_once('@').map_or((part, None), |(p, s)| (p, Some(s.trim().to_owned())));
        let (id, grams) = part.trim().rsplit_once(' ')?;
        Some(cerealis_core::formula::LineDraft {
            ingredient: id.trim().to_owned(),
            grams: cerealis_core::formula::Typed::Text(grams.to_owned()),
            grams_low: None,
            grams_high: None,
            stage,
            source: None,
            hydration_pct: None,
            used: None,
        })
    });
    FormulaDraft { lines: lines.collect(), ..FormulaDraft::default() }
}

fn assumed(body: &Body, bake: &Bake, a: &cerealis_core::oven::Advice) -> Value {
    let mut m = Map::new();
    let from_formula = body.formula.is_some();
    for (name, given, value) in [
        ("pieces", body.pieces.is_some() || from_formula, json!(bake.pieces)),
        ("shape", body.shape.is_some() || from_formula, json!(bake.shape)),
        ("vessel", body.vessel.is_some() || from_formula, json!(bake.vessel)),
        ("lid", body.lid.is_some() || from_formula, json!(bake.lid)),
        ("hydration_pct", body.hydration_pct.is_some() || from_formula, json!(bake.hydration_pct)),
        ("dough_c", body.dough_c.is_some(), json!(bake.dough_c)),
        ("crust", body.crust.is_some(), json!(a.crust)),
        ("colour", body.colour.is_some(), json!(a.colour)),
        ("glaze", body.glaze.is_some() || from_formula, json!(bake.glaze)),
        ("fan", body.fan.is_some(), json!(bake.fan)),
        ("altitude_m", body.altitude_m.is_some(), json!(bake.altitude_m)),
    ] {
        if !given {
            m.insert(name.to_owned(), value);
        }
    }
    Value::Object(m)
}
