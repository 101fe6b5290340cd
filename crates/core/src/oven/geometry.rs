//! One equivalent body for any piece: slab, cylinder, sphere or anything between, and the water in it.

use std::f64::consts::PI;

use super::{Bake, BakeClass, Constants, Shape, Vessel};

/// The kind of geometry a shape belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs, reason = "the names say it")]
pub enum Kind {
    Dome,
    Bar,
    Disc,
    Cup,
    Box,
    Batch,
}

impl Kind {
    /// The kind of a bake; pieces that touch are a batch whatever their shape.
    #[must_use]
    pub const fn of(bake: &Bake) -> Self {
        if bake.touching {
            return Self::Batch;
        }
        match bake.shape {
            Shape::Ball | Shape::Batard => Self::Dome,
            Shape::Baton | Shape::Ring | Shape::Braid => Self::Bar,
            Shape::Flat => Self::Disc,
            Shape::Muffin | Shape::Tall => Self::Cup,
            Shape::Pan => Self::Box,
        }
    }
}

/// The equivalent body and what it is made of.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Geometry {
    /// kg/m³ of the baked piece.
    pub density: f64,
    /// Share of water by weight.
    pub water: f64,
    /// Surface that counts, m².
    pub area: f64,
    /// Share of the open top in it.
    pub top_share: f64,
    /// Way from the middle to the surface, m.
    pub radius: f64,
    /// 0 slab, 1 cylinder, 2 sphere.
    pub roundness: f64,
    /// Length and width of the baked piece, m.
    pub length: f64,
    /// Width, m.
    pub width: f64,
    /// Height, m.
    pub height: f64,
    /// Where the middle of the heat lies above the base, as a share of the height.
    pub middle: f64,
    /// Kind of geometry.
    pub kind: Kind,
}

fn specific_volume(bake: &Bake, k: &Constants) -> f64 {
    let n = &k.numbers;
    let base = k.class(bake.class()).spec_vol;
    let bran = match bake.class() {
        BakeClass::Lean | BakeClass::Enriched | BakeClass::Brioche => -(0.008 * bake.wholegrain_pct + 0.016 * bake.rye_pct),
        BakeClass::Wholegrain => 0.004 * (100.0 - bake.wholegrain_pct) - 0.006 * bake.rye_pct,
        BakeClass::Rye | BakeClass::GlutenFree => 0.0,
    };
    let v = (base + bran - n.fruit_vol * bake.fruit_pct).max(n.spec_vol_min);
    if bake.shape == Shape::Flat { v * n.flat_spec_vol } else { v }
}

impl Geometry {
    /// The body of one piece of this bake.
    #[must_use]
    pub fn of(bake: &Bake, k: &Constants) -> Self {
        let density = 1000.0 / specific_volume(bake, k);
        let volume = bake.piece_g / 1000.0 / density;
        let kind = Kind::of(bake);
        let row = k.shapes.get(bake.shape.word()).copied();
        let (l_w, h_w, area_x) = match kind {
            Kind::Batch => (1.0, k.numbers.batch_h_w, 1.0),
            _ => row.map_or((1.0, 0.55, 1.0), |r| (r.l_w, r.h_w, r.area_x)),
        };
        let c_v = match kind {
            Kind::Dome => PI / 6.0,
            Kind::Bar | Kind::Disc | Kind::Cup => PI / 4.0,
            Kind::Box | Kind::Batch => 1.0,
        };
        let (w, h) = match bake.thickness_cm {
            Some(cm) => ((volume / (c_v * l_w * cm / 100.0)).sqrt(), cm / 100.0),
            None => {
                let w = (volume / (c_v * l_w * h_w)).cbrt();
                (w, h_w * w)
            }
        };
        let l = l_w * w;
        let vessel = k.vessel(bake.vessel);
        let ellipse = PI / 4.0 * l * w;
        let (top, side, base) = match kind {
            Kind::Dome => {
                let (a, b, p): (f64, f64, f64) = (l / 2.0, w / 2.0, 1.6075);
                let mean = ((a * b).powf(p) + (a * h).powf(p) + (b * h).powf(p)) / 3.0;
                (2.0 * PI * mean.powf(1.0 / p), 0.0, ellipse)
            }
            Kind::Bar => {
                let (a, b) = (w / 2.0, h);
                let arch = 0.5 * PI * (3.0 * (a + b) - ((3.0 * a + b) * (a + 3.0 * b)).sqrt());
                (l * arch * area_x, 0.0, l * w)
            }
            Kind::Disc => (ellipse, PI * (w * l).sqrt() * h, ellipse),
            Kind::Cup => (1.25 * ellipse, 0.85 * PI * w * h, ellipse),
            Kind::Box => (if bake.lid { 1.0 } else { 1.15 } * l * w, 0.9 * 2.0 * (l + w) * h, l * w),
            Kind::Batch => {
                let n = f64::from(bake.pieces);
                let rows = n.sqrt().floor().max(1.0);
                let columns = n / rows;
                let on_wall = 2.0 * (rows + columns) / (4.0 * rows * columns);
                (1.2 * l * w, 0.5 * on_wall * 4.0 * w * h, l * w)
            }
        };
        let open = matches!(bake.vessel, Vessel::Sheet | Vessel::Stone | Vessel::Steel);
        let w_side = if kind == Kind::Disc && open { 1.0 } else { vessel.w_side };
        let area = top + w_side * side + vessel.w_base * base;
        let to_base = h / (1.0 + vessel.w_base.min(1.0));
        let mut radius = if kind == Kind::Batch { to_base } else { to_base.min(w / 2.0) };
        let mut roundness = area * radius / volume - 1.0;
        if roundness > 2.0 {
            (roundness, radius) = (2.0, 3.0 * volume / area);
        }
        if roundness < 0.0 {
            (roundness, radius) = (0.0, volume / area);
        }
        let total = 102.0 + bake.hydration_pct + bake.sugar_pct + bake.fat_pct + 0.25 * bake.egg_pct + 0.1 * bake.milk_pct + bake.fruit_pct;
        let water = (bake.hydration_pct + 14.0 + 0.2 * bake.fruit_pct) / total;
        Self {
            density,
            water,
            area,
            top_share: top / area,
            radius,
            roundness,
            length: l,
            width: w,
            height: h,
            middle: vessel.w_base.min(1.0) / (1.0 + vessel.w_base.min(1.0)),
            kind,
        }
    }
}
