//! Today: what is rising, and what is next.

mod first;

use actix_web::{
    HttpRequest, HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get, post},
};
use askama::Template;
use cerealis_core::{
    bake::{is_finished, summary},
    measure::{degrees, show},
    plan::{Actual, minutes_between},
};
use cerealis_store::bakes::Search;

use super::{
    Choosing, Chrome, FormulaChoice,
    bakeday::{found, going_on},
    formulas_kept, frame, kitchen,
    logbook::against,
    page,
};
use crate::{
    State,
    draw::{Tide, tide},
    edge::{Local, PageFailure, in_words},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/").route(get().to(today))).service(web::resource("/first").route(post().to(first::keep)));
}

struct Rising {
    id: String,
    name: String,
    clock: String,
    act: &'static str,
    sign: String,
    when: String,
    state: String,
    ready: String,
    /// Height of the dough in its tub, tenths of a pixel grid of 100.
    level: String,
    level_y: String,
    fresh_y: String,
    ripe_y: String,
    shows_vessel: bool,
    wide: Tide,
    narrow: Tide,
}

#[derive(Template)]
#[template(path = "today/page.html")]
struct TodayPage {
    chrome: Chrome,
    rising: Vec<Rising>,
    last: Vec<(String, String, String, Option<String>, String)>,
    kept: Vec<FormulaChoice>,
    more: usize,
}

/// Finished bakes on the page.
const LAST: i64 = 5;

async fn today(state: Data<State>, request: HttpRequest) -> Result<HttpResponse, PageFailure> {
    let kitchen = kitchen(&state).await?;
    let (now, local) = (state.clock.now(), Local::of(&kitchen));
    let mut open = going_on(&state, &kitchen, now).await?;
    let Choosing { kept, more } = formulas_kept(&state).await?;
    if kept.is_empty() && open.is_empty() && !kitchen.is_told() {
        return first::ask(&request, &kitchen, &state);
    }
    open.sort_by_key(|s| s.state.act().map(|a| a.start));
    let rising = open
        .iter()
        .take(4)
        .filter_map(|s| {
            let act = s.state.act()?;
            let plan = s.kept.plan.course(&s.formula, &Actual::default(), &kitchen, &state.tables()).ok();
            let draw = |w: u32, h: u32, every: f64| tide(&frame(&s.state.course, plan.as_ref(), &local, Some(now), every), w, h, true);
            let hours = minutes_between(s.kept.plan.ask.start, s.state.course.ready_at) / 60.0;
            let every = if hours > 14.0 { 2.0 } else { 1.0 };
            let in_tub = s
                .state
                .done
                .iter()
                .all(|d| !matches!(d.step.kind, cerealis_core::plan::StepKind::Shape | cerealis_core::plan::StepKind::Load));
            let ratio = s.state.dough.map_or(1.0, |d| d.volume_ratio);
            let y = crate::draw::PixelScale::new(0.0, 3.0, 112.0, 12.0);
            let ripe = s
                .state
                .course
                .forecast
                .curve
                .iter()
                .filter(|r| r.stage < s.state.course.proof_stage.max(1))
                .map(|r| r.volume_ratio)
                .fold(1.0, f64::max);
            Some(Rising {
                id: s.kept.id.clone(),
                name: s.kept.name.clone(),
                clock: local.clock_to(act.start, 5.0),
                act: act.kind.title(),
                sign: s.state.waiting().unwrap_or(act).sign.clone(),
                when: in_words(minutes_between(now, act.start)),
                state: s.state.dough.map_or_else(
                    || "not mixed yet".into(),
                    |d| {
                        format!(
                            "dough {}, {} dough hours, {} times its volume",
                            degrees(d.dough_c).to(0).short(),
                            show(d.dough_h, 1),
                            show(d.volume_ratio, 1)
                        )
                    },
                ),
                ready: format!(
                    "{} {}",
                    local.weekday(s.state.course.ready_at),
                    s.state
                        .course
                        .ready_low
                        .zip(s.state.course.ready_high)
                        .filter(|(l, h)| l < h)
                        .map_or_else(|| local.clock_to(s.state.course.ready_at, 5.0), |(l, h)| local.span(l, h))
                ),
                level: format!("{:.1}", 112.0 - y.at(ratio.min(2.9))),
                level_y: format!("{:.1}", y.at(ratio.min(2.9))),
                fresh_y: format!("{:.1}", y.at(1.0)),
                ripe_y: format!("{:.1}", y.at(ripe.min(2.9))),
                shows_vessel: in_tub && s.state.dough.is_some(),
                wide: draw(1216, 330, every),
                narrow: draw(358, 262, if hours > 7.0 { every.max(2.0) * 2.0 } else { 2.0 }),
            })
        })
        .collect();
    let over = found(&state, Search { sliced: Some(true), rows: Some(LAST), ..Search::default() }).await?.rows;
    let last = over
        .into_iter()
        .filter(|(_, log)| is_finished(log))
        .map(|(kept, log)| {
            let sum = summary(&log);
            let went = against(&kept.plan, kept.plan.loaded(&sum.loads));
            (
                kept.id,
                kept.name,
                format!("{}, into the oven {went}", local.day(kept.plan.ask.start)),
                sum.colour,
                sum.next_time.unwrap_or_default(),
            )
        })
        .collect();
    let view = TodayPage { chrome: Chrome::new("Today", &kitchen, now), rising, last, kept, more };
    page(&view, StatusCode::OK)
}
