//! A plan that goes out: the kitchen sheet, and the files.

use actix_web::{
    HttpResponse,
    http::{StatusCode, header},
    web::{self, Data, Path, ServiceConfig, get},
};
use cerealis_core::plan::{PlanStep, search::hours::AwayKind};
use cerealis_exchange::{Clocks, PlanFile, PlanFormat};
use jiff::Timestamp;
use serde_qs::actix::QsQuery;

use super::{
    super::{page, see_other},
    house::{House, meant},
    query::Query,
    sheet,
    whole::{drawn, label_every, span_hours},
};
use crate::{
    State, desk,
    draw::tide,
    edge::{Local, PageFailure},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/plan/sheet").route(get().to(show_sheet)))
        .service(web::resource("/plan/file.{format:ics|json|csv|md}").route(get().to(file)));
}

async fn show_sheet(state: Data<State>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    let (House { kitchen, formula, .. }, asked, offer) = meant(&state, q.clone()).await?;
    let Some(offer) = offer else { return Ok(see_other(&q.address("/plan"))) };
    let local = Local::of(&kitchen);
    let drawing = tide(
        &crate::draw::Frame { now: None, ..drawn(&offer, &asked, &local, offer.course.mixed, label_every(span_hours(&offer))) },
        936,
        300,
        true,
    );
    let name = formula.name.clone().unwrap_or_else(|| "Unnamed bread".into());
    page(&sheet::SheetPage::of(name, &offer, drawing, &kitchen, &state), StatusCode::OK)
}

async fn file(state: Data<State>, format: Path<String>, query: QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let q = query.into_inner();
    let (House { kitchen, formula, .. }, asked, offer) = meant(&state, q.clone()).await?;
    let Some(offer) = offer else { return Ok(see_other(&q.address("/plan"))) };
    let Some(format) = PlanFormat::from_extension(&format) else { return Ok(see_other(&q.address("/plan"))) };
    let local = if format.is_for_people() { Local::of(&kitchen) } else { Local::for_data(&kitchen) };
    let steps: &[PlanStep] = &offer.course.steps;
    let file = PlanFile {
        id: format!("{}-{}", q.formula, offer.family.word()),
        name: formula.name.unwrap_or_else(|| "Bread".into()),
        steps,
        dropped: Vec::new(),
        sequence: 0,
        stamp: state.clock.now(),
        about: desk::about::about(&offer.formula, &offer.course, offer.ask.mix_c, offer.dose.as_ref(), (&kitchen, &local), &state),
        units: kitchen.units,
    };
    let asleep = |t: Timestamp| asked.ask.away.iter().any(|a| a.kind == AwayKind::Asleep && a.from <= t && t < a.to);
    let text = file.write(format, Clocks { quiet: &asleep, people: &|t| local.day_and_clock(t), data: &|t| local.rfc3339(t) });
    Ok(HttpResponse::Ok()
        .content_type(format.media_type())
        .insert_header((header::CONTENT_DISPOSITION, format!("attachment; filename=\"plan.{}\"", format.extension())))
        .body(text))
}
