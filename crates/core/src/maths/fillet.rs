//! Room of a shell's edge, or a rod's, beside the fillet of its journal.
//!
//! With `x` from the face of the cheek and `y` from the surface of the journal, a fillet of radius `R` has its centre at
//! `(R, R)`. A point inside both has `room = R - sqrt((R - x)^2 + (R - y)^2)`; one with `x >= R` or `y >= R` cannot touch.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::maths::{FilletEdge, fillet};
//!
//! let t = Length::tenths;
//! let edge = FilletEdge { inset: t(400), chamfer_axial: t(300), chamfer_radial: t(300), film: t(0) };
//! let room = fillet(t(1_250), edge, t(20), Some(t(100)));
//! assert!(!room.clear);
//! assert_eq!(room.extra_inset, t(650), "narrow it by 0.065");
//! ```
#![allow(clippy::arithmetic_side_effects, reason = "lengths end at 100 m, so their squares stay far within i128")]

use crate::units::{Length, Unit};

/// A point in the section, from the cheek and from the journal.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Corner {
    /// From the face of the cheek.
    pub x: Length,
    /// From the surface of the journal.
    pub y: Length,
}

/// The edge of a shell as it stands beside a fillet.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct FilletEdge {
    /// From the cheek to the edge of the shell.
    pub inset: Length,
    /// Its chamfer along the axis.
    pub chamfer_axial: Length,
    /// Its chamfer across.
    pub chamfer_radial: Length,
    /// What holds it off the journal: nothing at the worst.
    pub film: Length,
}

/// What room there is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FilletRoom {
    /// The outer corner of the chamfer, with its room in nanometres where it can touch at all.
    pub edge: (Corner, Option<f64>),
    /// Where the flat begins, likewise.
    pub flat: (Corner, Option<f64>),
    /// Whether both have what is wanted.
    pub clear: bool,
    /// The least further inset that clears both, rounded up to the nanometre.
    pub extra_inset: Length,
}

/// The margin that is wanted unless said otherwise: two thou, or five hundredths of a millimetre.
pub fn usual_fillet_margin(unit: Unit) -> Length {
    match unit {
        Unit::Inch => Length::tenths(20),
        Unit::Mm => Length::microns(50),
    }
}

/// How far beyond the end of the arc a flat that is cut anew begins unless said otherwise: ten thou, or a quarter of a
/// millimetre. One that begins where the arc ends rides as soon as anything lies a tenth otherwise.
pub fn usual_flat_margin(unit: Unit) -> Length {
    match unit {
        Unit::Inch => Length::tenths(100),
        Unit::Mm => Length::microns(250),
    }
}

/// Room of a point in nanometres; `None` where it cannot touch.
pub fn corner_room(radius: Length, corner: Corner) -> Option<f64> {
    let (dx, dy) = (radius - corner.x, radius - corner.y);
    let inside = dx > Length::ZERO && dy > Length::ZERO;
    inside.then(|| radius.as_f64() - dx.as_f64().hypot(dy.as_f64()))
}

/// How far a point stands from the fillet, its cheek or its journal, in nanometres: beyond the arc from where the arc ends,
/// and less than nothing inside the metal.
fn room_of(radius: Length, corner: Corner) -> f64 {
    corner_room(radius, corner).unwrap_or_else(|| {
        let beyond = |way: Length| way.max(Length::ZERO).as_f64();
        match corner.x < radius {
            // Above the arc only the cheek is near.
            true => corner.x.as_f64(),
            false => beyond(corner.x - radius).hypot(corner.y.as_f64()),
        }
    })
}

/// The room of a shell's edge in nanometres: what the corner of its chamfer has, and what its flat rides up the arc where
/// it begins before the arc ends.
pub fn edge_room(radius: Length, edge: FilletEdge) -> f64 {
    let outer = Corner { x: edge.inset, y: edge.film + edge.chamfer_radial };
    let flat = Corner { x: edge.inset + edge.chamfer_axial, y: edge.film };
    // A flat on the journal touches nothing else once it stands beyond the arc.
    let rides = corner_room(radius, flat).unwrap_or(f64::INFINITY);
    room_of(radius, outer).min(rides)
}

/// The room of the edge of a rod that stands a shell's wall above the journal, hard against the cheek, in nanometres: from the
/// end of the arc along the cheek, and at the inner end of its chamfer.
pub fn body_room(radius: Length, (along, up): (Length, Length), wall: Length) -> f64 {
    let at_the_cheek = (wall + up - radius).as_f64();
    room_of(radius, Corner { x: along, y: wall }).min(at_the_cheek)
}

/// Whether a point has the margin, reckoned without rounding.
pub fn has_margin(radius: Length, corner: Corner, margin: Length) -> bool {
    let square = |l: Length| i128::from(l.nm()) * i128::from(l.nm());
    let (dx, dy) = (radius - corner.x, radius - corner.y);
    if dx <= Length::ZERO || dy <= Length::ZERO {
        return true;
    }
    margin <= radius && square(dx) + square(dy) <= square(radius - margin)
}

/// The least `x` from which a point at that height has the margin, in whole nanometres.
pub fn least_x(radius: Length, y: Length, margin: Length) -> Length {
    let (mut low, mut high) = (Length::ZERO.nm() - 1, radius.nm().max(0));
    // At the radius nothing touches any more; every step towards it gives more room.
    while high - low > 1 {
        let middle = low + (high - low) / 2;
        if has_margin(radius, Corner { x: Length::from_nm(middle), y }, margin) {
            high = middle;
        } else {
            low = middle;
        }
    }
    Length::from_nm(high)
}

/// The room of an edge, and by how much it would have to stand further in.
pub fn fillet(radius: Length, edge: FilletEdge, margin: Length, axial_margin: Option<Length>) -> FilletRoom {
    let outer = Corner { x: edge.inset, y: edge.film + edge.chamfer_radial };
    let flat = Corner { x: edge.inset + edge.chamfer_axial, y: edge.film };
    let beyond = axial_margin.map(|wanted| radius + wanted - flat.x);
    let lacks = |c: Corner| least_x(radius, c.y, margin) - c.x;
    let extra = [Some(lacks(outer)), Some(lacks(flat)), beyond].into_iter().flatten().max().unwrap_or_default();
    FilletRoom {
        edge: (outer, corner_room(radius, outer)),
        flat: (flat, corner_room(radius, flat)),
        clear: extra <= Length::ZERO,
        extra_inset: extra.max(Length::ZERO),
    }
}

impl FilletRoom {
    /// The smaller room of both corners, in nanometres, where any can touch.
    pub fn least(&self) -> Option<f64> {
        [self.edge.1, self.flat.1].into_iter().flatten().min_by(f64::total_cmp)
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    /// The nearest point of the arc, looked for all along it.
    fn room_by_searching(radius: f64, x: f64, y: f64) -> f64 {
        let steps = 20_000;
        let nearest = (0..=steps)
            .map(|i| {
                let angle = std::f64::consts::FRAC_PI_2 * f64::from(i) / f64::from(steps);
                let (ax, ay) = (radius - radius * angle.cos(), radius - radius * angle.sin());
                (x - ax).hypot(y - ay)
            })
            .fold(f64::INFINITY, f64::min);
        // Material lies between the arc and the corner of cheek and journal.
        let inside_the_metal = (radius - x).hypot(radius - y) > radius;
        if inside_the_metal { -nearest } else { nearest }
    }

    proptest! {
        #[test]
        fn room_is_the_distance_to_the_arc_and_the_extra_inset_the_least_that_clears(
            radius in 20_000_i64..4_000_000, inset in 0_i64..3_000_000, axial in 1_i64..1_000_000,
            radial in 1_i64..1_000_000, film in 0_i64..100_000, margin in 0_i64..200_000,
            axial_margin in prop::option::of(0_i64..300_000),
        ) {
            let nm = Length::from_nm;
            let edge = |inset| FilletEdge { inset: nm(inset), chamfer_axial: nm(axial), chamfer_radial: nm(radial), film: nm(film) };
            let of = |inset| fillet(nm(radius), edge(inset), nm(margin), axial_margin.map(nm));
            let found = of(inset);
            for (corner, room) in [found.edge, found.flat] {
                if let Some(room) = room {
                    let searched = room_by_searching(radius as f64, corner.x.as_f64(), corner.y.as_f64());
                    // The arc is cut into steps of at most a few hundred nanometres.
                    prop_assert!((room - searched).abs() < radius as f64 * 1e-4 + 1.0, "{room} {searched}");
                }
            }
            let extra = found.extra_inset.nm();
            prop_assert!(of(inset + extra).clear);
            prop_assert_eq!(found.clear, extra == 0);
            if extra > 0 {
                prop_assert!(!of(inset + extra - 1).clear, "one nanometre less would do");
            }
        }
    }

    #[test]
    fn a_narrowed_shell_clears_and_its_corner_with_it() {
        let t = Length::tenths;
        let edge = FilletEdge { inset: t(1_050), chamfer_axial: t(300), chamfer_radial: t(300), film: t(0) };
        let found = fillet(t(1_250), edge, t(20), Some(t(100)));
        assert!(found.clear && found.flat.1.is_none());
        assert!((found.edge.1.unwrap_or_default() / 2_540.0 - 279.0).abs() < 1.0, "{found:?}");
    }

    #[test]
    fn an_edge_rides_up_a_fillet_and_clears_it_once_its_flat_begins_beyond() {
        let t = Length::tenths;
        let edge =
            |inset| FilletEdge { inset: t(inset), chamfer_axial: t(300), chamfer_radial: t(200), film: Length::ZERO };
        let room = |inset| edge_room(t(900), edge(inset)) / 2_540.0;
        assert!((room(450) + 12.4).abs() < 0.1, "{}", room(450));
        assert!((room(600) - 138.4).abs() < 0.1, "{}", room(600));
        // Beyond the arc and above it distances go on without a jump.
        assert!((edge_room(t(900), edge(899)) - edge_room(t(900), edge(900))).abs() < 300.0);
        assert!((room(2_900) - 2_009.9).abs() < 0.1, "{}", room(2_900));
        let body = |along, up| body_room(t(1_250), (t(along), t(up)), t(613)) / 2_540.0;
        assert!((body(650, 650) - 13.0).abs() < 0.1, "{}", body(650, 650));
        // The worked chamfer: 0.0637 up and 0.0198 along leave two thou at its inner end.
        assert!((body(198, 657) - 20.0).abs() < 0.5, "{}", body(198, 657));
        assert!((body(650, 637)).abs() < 0.1 && body(0, 637) < 0.0);
    }

    #[test]
    fn a_margin_larger_than_the_radius_is_only_met_beyond_it() {
        let t = Length::tenths;
        assert_eq!(least_x(t(100), t(20), t(150)), t(100));
        assert!(!has_margin(t(100), Corner { x: t(99), y: t(20) }, t(150)));
    }
}
