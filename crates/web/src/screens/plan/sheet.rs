//! The kitchen sheet of a plan: one page of paper for wet hands, with room to write what really happened.

use askama::Template;
use cerealis_core::{
    formula::{Spoons, spoons},
    kitchen::Kitchen,
    measure::{Quantity, degrees, weight},
    plan::search::offer::Offer,
    water::WaterAsk,
};

use super::{super::StepRow, water::WaterView};
use crate::{
    State,
    desk::{self, about::OvenTold},
    draw::Tide,
    edge::Local,
};

struct Line {
    grams: Quantity,
    name: String,
    aside: String,
    bowl: String,
}

#[derive(Template)]
#[template(path = "plan/sheet.html")]
pub struct SheetPage {
    name: String,
    under: String,
    lines: Vec<Line>,
    write: Vec<(&'static str, String)>,
    t: Tide,
    rows: Vec<StepRow>,
    oven: OvenTold,
    /// Dose, water, places.
    about: Vec<(&'static str, String)>,
}

impl SheetPage {
    /// The sheet of an offer.
    pub fn of(name: String, o: &Offer, drawing: Tide, kitchen: &Kitchen, state: &State) -> Self {
        let tables = state.tables();
        let local = Local::of(kitchen);
        let a = o.formula.analyse(&tables.pantry, &tables.styles);
        let water = WaterView::of(&a, &WaterAsk::usual(&a, kitchen, o.ask.mix_c, &tables), &tables.ferment).ok();
        let with = Spoons::of(kitchen, &tables.pantry);
        let mut bowl = 0.0;
        let lines = o
            .formula
            .lines
            .iter()
            .filter(|l| l.in_dough())
            .map(|l| {
                bowl += l.grams.likely;
                let small = if l.grams.likely < 60.0 { spoons(&l.ingredient, l.grams.likely, with) } else { None };
                let degrees =
                    water.as_ref().filter(|w| w.is_water && l.ingredient.id == "water").map(|w| format!("at {}", w.degrees.short()));
                Line {
                    grams: weight(l.grams.likely),
                    name: l.ingredient.name.clone(),
                    aside: degrees.or(small).unwrap_or_default(),
                    bowl: weight(bowl).to_string(),
                }
            })
            .collect();
        let pieces = o.formula.pieces.as_ref().map_or(1, |p| p.count);
        let makes = if pieces == 1 { "One piece".to_owned() } else { format!("{pieces} pieces") };
        let mut rows = StepRow::all(&o.course.steps, &local);
        // The waits stand in the drawing; the paper lists what is done.
        // A wait has no row of its own, unless the recipe has words for it.
        let keep: Vec<bool> = o.course.steps.iter().map(|s| !s.kind.waits() || !s.words.is_empty()).collect();
        let mut kept = keep.iter();
        rows.retain(|_| kept.next().copied().unwrap_or(true));
        Self {
            under: format!("{makes}. Ready {} {}. {}", local.weekday(o.course.ready_at), local.clock_to(o.course.ready_at, 5.0), o.name),
            name,
            lines,
            write: vec![
                ("Dough out of the bowl", format!("plan {}", degrees(o.ask.mix_c).to(0).short())),
                ("Room", format!("plan {}", degrees(kitchen.room_c).short())),
                ("Where it proves", o.course.stays.last().map_or_else(String::new, |s| format!("plan {}", degrees(s.celsius).short()))),
                ("Core, out of the oven", degrees(o.course.oven.core_c).to(0).short().to_string()),
                ("Dent before the oven", "at once · by half · stays".to_owned()),
            ],
            t: drawing,
            rows,
            oven: OvenTold::of(&o.course.oven, &o.formula, kitchen, state),
            about: desk::about::about(&o.formula, &o.course, o.ask.mix_c, o.dose.as_ref(), (kitchen, &local), state)
                .into_iter()
                .filter(|l| l.0 != "Oven")
                .collect(),
        }
    }
}
