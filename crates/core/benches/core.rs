//! How fast the core answers. Budgets: read 30 lines 200 µs, 64 KiB 50 ms, percentages 20 µs, a 24 h rise 50 µs, advice 8 ms.

#![expect(clippy::panic, reason = "a benchmark that cannot be set up must stop")]

use cerealis_core::{
    Tables,
    ferment::{Dough, Rise, RiseKind, RiseStage, YeastDose, course, simulate},
    formula::{Formula, dose_for},
    kitchen::Kitchen,
    oven::{Bake, BakeBody, advise, crossing, film, sizes},
    plan,
    reader::{Choices, read},
};

/// As in the program.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn main() {
    divan::main();
}

const RECIPE: &str = "Harbour plait\n\nFor the dough:\n4 cups bread flour\n1/2 cup wholemeal flour\n150 g ripe sourdough starter\n1 cup warm milk (110 °F)\n2 large eggs\n1/3 cup sugar\n2 tsp instant yeast\n1 1/2 tsp fine salt\n5 tbsp butter, softened\nzest of 1 lemon\n2 tbsp honey\n1 tsp cinnamon\n1 cup raisins, soaked in 3 tbsp rum\n\nFor the glaze:\n1 egg, beaten\n1 tbsp milk\n\nMethod\nMix everything but the butter.\nKnead 10 minutes.\nAdd the butter spoon by spoon.\nLet rise 1 1/2 hours until doubled.\nPunch down.\nDivide into 2 pieces of 600 g each.\nBraid.\nProof 45 minutes.\nBrush with egg.\nPreheat the oven to 180 C / 350 F.\nBake at 180 C for 30-35 minutes.\nCool on a rack.";

fn tables() -> Tables {
    Tables::built_in().unwrap_or_else(|e| panic!("{e}"))
}

fn formula(t: &Tables) -> Formula {
    read(RECIPE, &Choices::default(), &[], t).unwrap_or_else(|e| panic!("{e}")).formula
}

#[divan::bench]
fn read_thirty_lines(b: divan::Bencher<'_, '_>) {
    let (t, choices) = (tables(), Choices::default());
    b.bench_local(|| read(divan::black_box(RECIPE), &choices, &[], &t));
}

/// The longest text that is read: time goes with its length.
#[divan::bench(args = [8, 16, 32, 63])]
fn read_kibibytes(b: divan::Bencher<'_, '_>, kib: usize) {
    let (t, choices) = (tables(), Choices::default());
    let line = "500 g flour, 300 g water and 10 g salt. Knead 10 min, rise 1 h. ".repeat(3).trim_end().to_owned();
    let line = format!("{line} Bake at 220 C for 35 min.\n");
    let text = line.repeat(kib * 1024 / line.len());
    b.bench_local(|| read(divan::black_box(&text), &choices, &[], &t).is_ok());
}

/// The slowest kind of search: a word that only resembles names.
#[divan::bench(args = ["flour", "kardamum", "wholemeal bread"])]
fn pantry_search(b: divan::Bencher<'_, '_>, word: &str) {
    let t = tables();
    b.bench_local(|| t.pantry.search(divan::black_box(word), 20).len());
}

#[divan::bench]
fn percentages(b: divan::Bencher<'_, '_>) {
    let t = tables();
    let f = formula(&t);
    b.bench_local(|| divan::black_box(&f).analyse(&t.pantry, &t.styles));
}

/// Every finding of a recipe: its dough, its lines, its steps.
#[divan::bench]
fn findings(b: divan::Bencher<'_, '_>) {
    let t = tables();
    let reading = read(RECIPE, &Choices::default(), &[], &t).unwrap_or_else(|e| panic!("{e}"));
    b.bench_local(|| divan::black_box(&reading).findings(&t));
}

/// What the models have to say of it in a kitchen, once they have been run: with the above, all findings.
#[divan::bench]
fn findings_of_the_models(b: divan::Bencher<'_, '_>) {
    let t = tables();
    let kitchen = Kitchen::default();
    let reading = read(RECIPE, &Choices::default(), &[], &t).unwrap_or_else(|e| panic!("{e}"));
    let a = reading.formula.analyse(&t.pantry, &t.styles);
    let foreseen = plan::Foreseen::of(Some(&reading), &a, &kitchen, &t);
    b.bench_local(|| plan::findings::of_foreseen(divan::black_box(&foreseen), Some(&reading), &a, &kitchen, &t));
}

/// The models themselves: two rises told, and the bake at the setting told.
#[divan::bench]
fn models_of_a_recipe(b: divan::Bencher<'_, '_>) {
    let t = tables();
    let kitchen = Kitchen::default();
    let reading = read(RECIPE, &Choices::default(), &[], &t).unwrap_or_else(|e| panic!("{e}"));
    let a = reading.formula.analyse(&t.pantry, &t.styles);
    b.bench_local(|| plan::Foreseen::of(Some(divan::black_box(&reading)), &a, &kitchen, &t));
}

/// The dose that makes a dough ripe in so many hours: some twenty rises.
#[divan::bench]
fn dose(b: divan::Bencher<'_, '_>) {
    let t = tables();
    let f = formula(&t);
    let a = f.analyse(&t.pantry, &t.styles);
    b.bench_local(|| dose_for(divan::black_box(&a), 8.0, 25.0, 20.0, &t));
}

fn dough(instant_pct: f64) -> Dough {
    Dough {
        flour: vec![("strong-white".into(), 100.0)],
        water_pct: 68.0,
        salt_pct: 2.0,
        sugar_pct: 0.0,
        fat_pct: 0.0,
        solids_pct: 0.0,
        yeast: Some(YeastDose { kind: "instant".into(), pct: instant_pct, viable: 1.0 }),
        leaven: None,
        preferment_yeast_pct: 0.0,
        spice_factor: 1.0,
    }
}

/// A day in one place: 288 steps, and the look beyond its end for what comes later.
#[divan::bench]
fn rise_of_a_day(b: divan::Bencher<'_, '_>) {
    let t = tables();
    let stage = RiseStage { minutes: Some(24.0 * 60.0), ..RiseStage::until_ripe(RiseKind::Bulk, 20.0, 900.0) };
    let rise = Rise { style: "lean".into(), dough: dough(0.05), start_c: 24.0, stages: vec![stage], rate: 1.0, log_sigma: None };
    b.bench_local(|| simulate(divan::black_box(&rise), &t.ferment));
}

fn three_stages() -> Rise {
    let stage = |kind, c, h: f64| RiseStage { minutes: Some(h * 60.0), ..RiseStage::until_ripe(kind, c, 900.0) };
    let stages = vec![stage(RiseKind::Bulk, 24.0, 3.0), stage(RiseKind::Bulk, 4.0, 18.0), stage(RiseKind::Proof, 26.0, 3.0)];
    Rise { style: "lean".into(), dough: dough(0.2), start_c: 25.0, stages, rate: 1.0, log_sigma: None }
}

/// A day with a night in the cold and a proof, as it is asked for.
#[divan::bench]
fn rise_of_a_day_in_three_stages(b: divan::Bencher<'_, '_>) {
    let (t, rise) = (tables(), three_stages());
    b.bench_local(|| course(divan::black_box(&rise), &t.ferment));
}

/// With each of its rises left standing for up to a day more, to tell when it would be over.
#[divan::bench]
fn rise_of_a_day_in_three_stages_looked_ahead(b: divan::Bencher<'_, '_>) {
    let (t, rise) = (tables(), three_stages());
    b.bench_local(|| simulate(divan::black_box(&rise), &t.ferment));
}

#[divan::bench]
fn oven_advice(b: divan::Bencher<'_, '_>) {
    let (t, bake) = (tables(), hearth());
    b.bench_local(|| advise(divan::black_box(&bake), &t.oven));
}

fn hearth() -> Bake {
    let body = BakeBody {
        piece_g: Some(900.0),
        shape: Some("batard".into()),
        vessel: Some("stone".into()),
        hydration_pct: Some(70.0),
        ..BakeBody::default()
    };
    body.check().unwrap_or_else(|e| panic!("{e}"))
}

/// One bake from loading to the end, as the film looks at it.
#[divan::bench]
fn one_bake(b: divan::Bencher<'_, '_>) {
    let (t, bake) = (tables(), hearth());
    b.bench_local(|| film(divan::black_box(&bake), 230.0, 35.0, 2, &t.oven));
}

/// Core and crust over a dozen settings.
#[divan::bench]
fn oven_crossing(b: divan::Bencher<'_, '_>) {
    let (t, bake) = (tables(), hearth());
    b.bench_local(|| crossing(divan::black_box(&bake), &t.oven));
}

/// Five sizes of one dough.
#[divan::bench]
fn oven_sizes(b: divan::Bencher<'_, '_>) {
    let (t, bake) = (tables(), hearth());
    b.bench_local(|| sizes(divan::black_box(&bake), 1000.0, &t.oven));
}
