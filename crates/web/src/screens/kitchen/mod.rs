//! The kitchen: what it reckons with, and what the household adds to the shelf.

mod keeping;
mod own;

use actix_web::{
    HttpResponse,
    http::StatusCode,
    web::{self, Data, ServiceConfig, get},
};
use askama::Template;
use cerealis_core::{
    input::Pointer,
    kitchen::{COUNTRIES, EGGS, HouseOven, Kitchen, KitchenBody, MIXERS, MOST_OTHERS, Night, PlacesBody},
    knead::MixerSize,
    measure::{Clock, Decimal, System, Temperature, WeekStart, Weight, volume},
    oven::Dial,
    pantry::{Pan, PanShape, Pantry},
};

use cerealis_store::Unreadable;

use self::keeping::Brings;
use super::{Chrome, page, see_other};
use crate::{
    State, desk,
    edge::{Failure, Fields, PageFailure},
};

pub fn routes(app: &mut ServiceConfig) {
    app.service(web::resource("/kitchen").route(get().to(show)).route(web::post().to(keep)));
    own::routes(app);
    keeping::routes(app);
}

/// One of the household's own things, in a list.
struct Thing {
    id: String,
    name: String,
    about: String,
    away: bool,
}

/// A field for a figure: its name, its words, its unit, whether it may stay empty.
type Figure = (&'static str, &'static str, &'static str);

const PLACES: [Figure; 5] = [
    ("places[room_c]", "Room", "°C"),
    ("places[pantry_c]", "Pantry, if there is one", "°C"),
    ("places[fridge_c]", "Fridge, if there is one", "°C"),
    ("places[proof_box_c]", "Proof box, if there is one", "°C"),
    ("places[oven_light_c]", "Oven with the light on, if it has one", "°C"),
];
const NIGHT: [Figure; 2] = [("places[night][room_c]", "Room at night", "°C"), ("places[night][pantry_c]", "Pantry at night", "°C")];
const WATER: [Figure; 2] = [("tap_c", "Water from the tap", "°C"), ("flour_c", "Flour on the shelf", "°C")];
const CUPS: [(&str, &str); 4] =
    [("us", "US, 237 ml"), ("metric", "metric, 250 ml"), ("imperial", "imperial, 284 ml"), ("own", "my own, as below")];
const DIALS: [(&str, &str); 3] = [("celsius", "°C"), ("fahrenheit", "°F"), ("gas", "gas marks")];
const FILLED: [(&str, &str); 3] = [("spooned", "spooned in"), ("scooped", "scooped with the cup"), ("sifted", "sifted in")];

#[derive(Template)]
#[template(path = "kitchen/page.html")]
struct KitchenPage {
    chrome: Chrome,
    f: Fields,
    done: Done,
    ingredients: Vec<Thing>,
    pans: Vec<Thing>,
    unreadable: Vec<Unreadable>,
}

impl KitchenPage {
    /// The fields of an oven beside the usual one: those kept, and room for one more.
    fn other_ovens(&self) -> Vec<[String; 5]> {
        let of = |i: usize| ["name", "dial", "offset_c", "hot_k", "fan"].map(|field| format!("other_ovens[{i}][{field}]"));
        let kept = (0..MOST_OTHERS).take_while(|i| !self.f.value(&format!("other_ovens[{i}][name]")).is_empty()).count();
        (0..(kept + 1).min(MOST_OTHERS)).map(of).collect()
    }
    /// The countries to choose from, with the one kept among them whatever it is.
    fn locales(&self) -> Vec<(&str, &str)> {
        let kept = self.f.value("locale");
        let other = Some((kept, kept)).filter(|_| !COUNTRIES.iter().any(|(l, _)| *l == kept));
        COUNTRIES.into_iter().chain(other).collect()
    }
}

fn about_pan(p: &Pan) -> String {
    let shape = match p.shape {
        PanShape::Loaf => "loaf tin",
        PanShape::Round => "round",
        PanShape::Ring => "ring",
        PanShape::Rect => "tray",
        PanShape::Pot => "pot",
        PanShape::Basket => "basket",
    };
    format!("{shape}, {}{}", volume(p.volume_ml), if p.lid { ", with a lid" } else { "" })
}

/// The household's own things as the pantry now holds them.
async fn things(state: &State) -> Result<(Vec<Thing>, Vec<Thing>), PageFailure> {
    let own = crate::edge::on_disk(&state.db, cerealis_store::shelf::get).await?;
    let t = state.tables();
    let like =
        |id: &str| t.pantry.get(id).and_then(|i| t.pantry.get(&i.kind)).map_or_else(String::new, |i| format!("like {}", i.short_name()));
    let ingredients = own.ingredients.into_iter().map(|(id, i)| Thing { about: like(&id), id, name: i.name, away: i.away }).collect();
    let pans = own
        .pans
        .into_iter()
        .map(|(id, p)| Thing { about: t.pantry.pan(&id).map_or_else(String::new, |pan| about_pan(pan)), id, name: p.name, away: p.away })
        .collect();
    Ok((ingredients, pans))
}

/// What was done before the page is shown again.
#[derive(Default)]
struct Done {
    saved: bool,
    brings: Option<Brings>,
}

async fn render(state: &State, f: Fields, done: Done, status: StatusCode) -> Result<HttpResponse, PageFailure> {
    let kitchen = super::kitchen(state).await?;
    let (ingredients, pans) = things(state).await?;
    let unreadable = crate::edge::on_disk(&state.db, cerealis_store::shelf::unreadable).await?;
    page(&KitchenPage { chrome: Chrome::new("Kitchen", &kitchen, state.clock.now()), f, done, ingredients, pans, unreadable }, status)
}

#[derive(Debug, serde::Deserialize, Default)]
struct Query {
    #[serde(default)]
    saved: bool,
}

async fn show(state: Data<State>, serde_qs::actix::QsQuery(q): serde_qs::actix::QsQuery<Query>) -> Result<HttpResponse, PageFailure> {
    let kitchen: Kitchen = super::kitchen(&state).await?;
    render(&state, Fields::of(&KitchenBody::from(&kitchen), kitchen.units), Done { saved: q.saved, brings: None }, StatusCode::OK).await
}

/// The night, where anything is told of it.
fn night(f: &mut Fields, here: &Pointer) -> Option<Night> {
    let told = ["from", "to", "room_c", "pantry_c"].iter().any(|name| f.text(&here.at(name)).is_some());
    told.then(|| Night {
        from: f.hour(&here.at("from")),
        to: f.hour(&here.at("to")),
        room_c: f.needed(&here.at("room_c")),
        pantry_c: f.needed(&here.at("pantry_c")),
    })
}

fn house_oven(f: &mut Fields, here: &Pointer) -> HouseOven {
    HouseOven {
        name: f.text(&here.at("name")).unwrap_or_default(),
        dial: f.text(&here.at("dial")).and_then(|d| Dial::from_word(&d)).unwrap_or_default(),
        offset_c: f.number(&here.at("offset_c")),
        hot_k: f.number(&here.at("hot_k")),
        fan: f.text(&here.at("fan")).is_some(),
    }
}

/// The usual one, which needs no name of its own.
fn usual_oven(f: &mut Fields, here: &Pointer) -> HouseOven {
    let told = house_oven(f, here);
    if told.name.is_empty() { HouseOven { name: HouseOven::default().name, ..told } } else { told }
}

/// The ovens beside the usual one: those of which anything is told.
fn others(f: &mut Fields, here: &Pointer) -> Vec<HouseOven> {
    let told = |f: &Fields, at: &Pointer| ["name", "offset_c", "hot_k", "fan"].iter().any(|name| f.text(&at.at(name)).is_some());
    let kept: Vec<Pointer> = (0..MOST_OTHERS).map(|i| here.at(i)).take_while(|at| told(f, at)).collect();
    kept.iter().map(|at| house_oven(f, at)).collect()
}

async fn keep(state: Data<State>, mut f: Fields) -> Result<HttpResponse, PageFailure> {
    let root = Pointer::root();
    let places = root.at("places");
    let body = KitchenBody {
        nights_told: None,
        name: Some(f.text(&root.at("name")).unwrap_or_default()),
        zone: Some(f.text(&root.at("zone")).unwrap_or_default()),
        locale: Some(f.text(&root.at("locale")).unwrap_or_default()),
        cup: f.text(&root.at("cup")),
        cup_ml: Some(f.number(&root.at("cup_ml"))),
        flour_measure: f.text(&root.at("flour_measure")),
        egg: Some(f.text(&root.at("egg"))),
        packet_g: Some(f.number(&root.at("packet_g"))),
        scale_step_g: Some(f.needed(&root.at("scale_step_g"))),
        altitude_m: Some(f.needed(&root.at("altitude_m"))),
        latitude: Some(f.number(&root.at("latitude"))),
        longitude: Some(f.number(&root.at("longitude"))),
        places: Some(PlacesBody {
            room_c: f.needed(&places.at("room_c")),
            pantry_c: f.number(&places.at("pantry_c")),
            fridge_c: f.number(&places.at("fridge_c")),
            proof_box_c: f.number(&places.at("proof_box_c")),
            oven_light_c: f.number(&places.at("oven_light_c")),
            night: night(&mut f, &places.at("night")),
        }),
        flour_c: Some(f.needed(&root.at("flour_c"))),
        tap_c: Some(f.needed(&root.at("tap_c"))),
        oven: Some(usual_oven(&mut f, &root.at("oven"))),
        other_ovens: Some(others(&mut f, &root.at("other_ovens"))),
        mixer: f.text(&root.at("mixer")),
        mixer_size: f.choice(&root.at("mixer_size"), MixerSize::from_word),
        currency: Some(f.text(&root.at("currency")).unwrap_or_default()),
        prices: None,
        hours: None,
        units: f.choice(&root.at("units"), System::from_word),
        temperature: f.choice(&root.at("temperature"), Temperature::from_word),
        weight: f.choice(&root.at("weight"), Weight::from_word),
        clock: f.choice(&root.at("clock"), |w| w.parse().ok()),
        decimal: f.choice(&root.at("decimal"), Decimal::from_word),
        week_start: f.choice(&root.at("week_start"), WeekStart::from_word),
        assumed: f.text(&root.at("all_told")).map(|_| Vec::new()),
    };
    // With a field that cannot be read the rest is checked too, so that all is told at once; nothing is kept.
    if f.is_wrong() {
        if let Err(errors) = body.over(super::kitchen(&state).await?) {
            f.refuse(errors);
        }
        return render(&state, f, Done::default(), StatusCode::UNPROCESSABLE_ENTITY).await;
    }
    match desk::kitchen::keep(&state, body).await {
        Ok(_) => Ok(see_other("/kitchen?saved=true")),
        Err(Failure::Input(errors)) => {
            f.refuse(errors);
            render(&state, f, Done::default(), StatusCode::UNPROCESSABLE_ENTITY).await
        }
        Err(other) => Err(other.into()),
    }
}

/// Names of the built-in ingredients an own one may be like.
fn likenesses(pantry: &Pantry) -> Vec<String> {
    cerealis_core::pantry::likenesses(pantry).into_iter().map(|i| i.name.clone()).collect()
}
