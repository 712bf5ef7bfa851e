//! How flat a face is and how straight a line: by least squares, and between two planes or lines as near as they can be.
//!
//! The nearest two parallel planes with all points between are found among four points at a time: four points with
//! `sum l = sum l x = sum l y = 0` cannot lie nearer than `|sum l z| / (sum |l| / 2)`, and some four are as far apart as all
//! are (the duality of linear programming, with Helly's theorem). A line does with three points. The same holds within a
//! span: a group is as far apart as its worst four, so only fours that lie within the span have to be looked at.
#![allow(
    clippy::arithmetic_side_effects,
    reason = "points end at 100 m, so differences stay within i64 and products of two within i128; spans are not zero"
)]

use super::runout::least_squares;

/// Points that a face or a line may have.
pub const MOST_POINTS: usize = 100;

/// A point of a face, in one unit.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FacePoint {
    /// Along.
    pub x: i64,
    /// Across.
    pub y: i64,
    /// Height.
    pub z: f64,
}

/// How a face lies.
#[derive(Debug, Clone, PartialEq)]
pub struct Flatness {
    /// Slope along x, and along y.
    pub slope: [f64; 2],
    /// Height of each point over the plane of least squares.
    pub residuals: Vec<f64>,
    /// Distance of the nearest two planes with all points between, along z.
    pub minimum_zone: f64,
    /// The largest such distance of points no two of which lie further apart than the span.
    pub span_zone: Option<f64>,
}

/// Range of some values.
pub fn range(values: &[f64]) -> f64 {
    let ends = values.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(lo, hi), v| (lo.min(*v), hi.max(*v)));
    (ends.1 - ends.0).max(0.0)
}

/// Twice the signed area of a triangle in x and y; exactly zero for three on one line.
fn area(points: &[FacePoint], [a, b, c]: [usize; 3]) -> f64 {
    let along = |i: usize| i128::from(points[i].x) - i128::from(points[a].x);
    let across = |i: usize| i128::from(points[i].y) - i128::from(points[a].y);
    (along(b) * across(c) - along(c) * across(b)) as f64
}

/// How far points held together by these weights lie apart.
fn apart(weights: &[f64], heights: &[f64]) -> f64 {
    let (sum, size) = weights.iter().zip(heights).fold((0.0, 0.0), |(s, n), (w, z)| (s + w * z, n + w.abs()));
    if size > 0.0 { 2.0 * f64::abs(sum) / size } else { 0.0 }
}

/// How flat the points are; `None` of less than three or of points on one line.
pub fn flatness(points: &[FacePoint], span: Option<i64>) -> Option<Flatness> {
    let n = points.len();
    let first = points.first()?;
    // Moved to the first point and scaled, so that large faces lose no digits.
    let scale = points.iter().map(|p| (p.x - first.x).abs().max((p.y - first.y).abs())).max()?.max(1) as f64;
    let column = |p: &FacePoint| [1.0, (p.x - first.x) as f64 / scale, (p.y - first.y) as f64 / scale];
    let triples = (2..n).flat_map(|c| (1..c).flat_map(move |b| (0..b).map(move |a| [a, b, c])));
    let areas: Vec<f64> = triples.map(|t| area(points, t)).collect();
    if areas.iter().all(|a| *a == 0.0) {
        return None;
    }
    let columns: Vec<[f64; 3]> = points.iter().map(column).collect();
    let heights: Vec<f64> = points.iter().map(|p| p.z).collect();
    let [level, along, across] = least_squares(&columns, &heights)?;
    let residuals: Vec<f64> =
        columns.iter().zip(&heights).map(|([_, x, y], z)| z - level - along * x - across * y).collect();
    let near: Vec<bool> = (0..n * n).map(|i| span.is_none_or(|s| within(&points[i / n], &points[i % n], s))).collect();
    let (minimum_zone, span_zone) = zones(points, &residuals, &areas, &near);
    Some(Flatness {
        slope: [along / scale, across / scale],
        residuals,
        minimum_zone,
        span_zone: span.map(|_| span_zone),
    })
}

fn within(a: &FacePoint, b: &FacePoint, span: i64) -> bool {
    let square = |n: i128| n * n;
    square(i128::from(a.x) - i128::from(b.x)) + square(i128::from(a.y) - i128::from(b.y)) <= square(i128::from(span))
}

/// The zone of all points, and of those near each other. Heights over any plane do as well as heights.
fn zones(points: &[FacePoint], z: &[f64], areas: &[f64], near: &[bool]) -> (f64, f64) {
    let n = points.len();
    // Where the triangle a < b < c stands in the list of all.
    let triangle = |a: usize, b: usize, c: usize| areas[c * (c - 1) * (c.max(2) - 2) / 6 + b * (b - 1) / 2 + a];
    let (mut all, mut close) = (0.0_f64, 0.0_f64);
    let mut look = |zone: f64, together: bool| {
        all = all.max(zone);
        if together {
            close = close.max(zone);
        }
    };
    for c in 2..n {
        for b in 1..c {
            for a in 0..b {
                let three = near[a * n + b] && near[a * n + c] && near[b * n + c];
                let abc = triangle(a, b, c);
                if abc == 0.0 {
                    look(on_a_line(points, z, [a, b, c]), three);
                }
                for d in c + 1..n {
                    let weights = [triangle(b, c, d), -triangle(a, c, d), triangle(a, b, d), -abc];
                    let zone = apart(&weights, &[z[a], z[b], z[c], z[d]]);
                    look(zone, three && near[a * n + d] && near[b * n + d] && near[c * n + d]);
                }
            }
        }
    }
    (all, close)
}

/// How far three points of one line lie apart.
fn on_a_line(points: &[FacePoint], z: &[f64], three: [usize; 3]) -> f64 {
    let along = |i: usize| {
        let (dx, dy) = (points[i].x - points[three[0]].x, points[i].y - points[three[0]].y);
        let far = points[three[2]].x - points[three[0]].x;
        if far == 0 { dy as f64 } else { dx as f64 }
    };
    let at = three.map(along);
    apart(&[at[2] - at[1], at[0] - at[2], at[1] - at[0]], &three.map(|i| z[i]))
}

/// How a line of points runs.
#[derive(Debug, Clone, PartialEq)]
pub struct Straightness {
    /// Height of each point over the line of least squares, as given.
    pub residuals: Vec<f64>,
    /// Height of each point over the line through both ends, as given.
    pub from_ends: Vec<f64>,
    /// Distance of the nearest two lines with all points between.
    pub minimum_zone: f64,
    /// The largest such distance of points within the span.
    pub span_zone: Option<f64>,
    /// The largest distance of an inner point from the line through its neighbours.
    pub neighbour: f64,
}

/// How straight the points `(at, z)` are, in any order, no two at one place; `None` of less than three.
pub fn straightness(points: &[(i64, f64)], span: Option<i64>) -> Option<Straightness> {
    let n = points.len();
    let mut sorted = points.to_vec();
    sorted.sort_by_key(|(at, _)| *at);
    let (first, last) = (*sorted.first()?, *sorted.last()?);
    let length = (last.0 - first.0) as f64;
    if n < 3 || length <= 0.0 {
        return None;
    }
    let along = |at: i64| (at - first.0) as f64 / length;
    let columns: Vec<[f64; 2]> = points.iter().map(|(at, _)| [1.0, along(*at)]).collect();
    let heights: Vec<f64> = points.iter().map(|(_, z)| *z).collect();
    let [level, slope] = least_squares(&columns, &heights)?;
    let between = |(at, z): (i64, f64), a: (i64, f64), b: (i64, f64)| {
        z - a.1 - (b.1 - a.1) * (at - a.0) as f64 / (b.0 - a.0) as f64
    };
    let zone = |a: (i64, f64), b: (i64, f64), c: (i64, f64)| between(b, a, c).abs();
    let (mut minimum_zone, mut close) = (0.0_f64, 0.0_f64);
    for c in 2..n {
        for b in 1..c {
            for a in 0..b {
                let apart = zone(sorted[a], sorted[b], sorted[c]);
                minimum_zone = minimum_zone.max(apart);
                if span.is_some_and(|s| sorted[c].0 - sorted[a].0 <= s) {
                    close = close.max(apart);
                }
            }
        }
    }
    Some(Straightness {
        residuals: columns.iter().zip(&heights).map(|([_, x], z)| z - level - slope * x).collect(),
        from_ends: points.iter().map(|p| between(*p, first, last)).collect(),
        minimum_zone,
        span_zone: span.map(|_| close),
        neighbour: sorted.windows(3).map(|w| zone(w[0], w[1], w[2])).fold(0.0, f64::max),
    })
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    /// The range over a plane of that slope.
    fn over(points: &[FacePoint], [along, across]: [f64; 2]) -> f64 {
        let heights: Vec<f64> = points.iter().map(|p| p.z - along * p.x as f64 - across * p.y as f64).collect();
        range(&heights)
    }

    /// The nearest planes by trying: at the best slope three points touch one plane, or two touch each.
    fn by_trying(points: &[FacePoint]) -> f64 {
        let edge = |a: &FacePoint, b: &FacePoint| [(b.x - a.x) as f64, (b.y - a.y) as f64, b.z - a.z];
        let edges: Vec<[f64; 3]> =
            points.iter().enumerate().flat_map(|(i, a)| points[..i].iter().map(move |b| edge(a, b))).collect();
        let mut least = f64::INFINITY;
        for (i, [x1, y1, z1]) in edges.iter().enumerate() {
            for [x2, y2, z2] in &edges[..i] {
                let turn = x1 * y2 - x2 * y1;
                if turn != 0.0 {
                    let slope = [(z1 * y2 - z2 * y1) / turn, (x1 * z2 - x2 * z1) / turn];
                    least = least.min(over(points, slope));
                }
            }
        }
        least
    }

    fn face() -> impl Strategy<Value = Vec<FacePoint>> {
        let places = prop::collection::btree_set((-6i64..7, -6i64..7), 4..12);
        (places, prop::collection::vec(-20i64..20, 12)).prop_map(|(places, heights)| {
            places.into_iter().zip(heights).map(|((x, y), z)| FacePoint { x, y, z: z as f64 }).collect()
        })
    }

    proptest! {
        #[test]
        fn no_two_planes_stand_nearer_than_the_minimum_zone(points in face()) {
            if let Some(found) = flatness(&points, None) {
                let tried = by_trying(&points);
                prop_assert!((found.minimum_zone - tried).abs() < 1e-6, "{} {tried}", found.minimum_zone);
                prop_assert!(found.minimum_zone <= range(&found.residuals) + 1e-9);
            }
        }

        #[test]
        fn a_tilted_face_is_as_flat_as_before_and_a_span_only_leaves_out(
            points in face(), slope in (-5i64..6, -5i64..6), span in 1i64..20,
        ) {
            let tilted: Vec<FacePoint> =
                points.iter().map(|p| FacePoint { z: p.z + (slope.0 * p.x + slope.1 * p.y) as f64, ..*p }).collect();
            let (plain, tilted) = (flatness(&points, Some(span)), flatness(&tilted, Some(span)));
            prop_assert_eq!(plain.is_some(), tilted.is_some());
            if let Some((plain, tilted)) = plain.zip(tilted) {
                prop_assert!((plain.minimum_zone - tilted.minimum_zone).abs() < 1e-6);
                let (a, b) = (plain.span_zone.unwrap_or(-1.0), tilted.span_zone.unwrap_or(-1.0));
                prop_assert!((a - b).abs() < 1e-6 && a <= plain.minimum_zone + 1e-9);
            }
        }

        #[test]
        fn a_line_is_a_narrow_face(heights in prop::collection::vec(-20i64..20, 3..9), span in 1i64..9) {
            let line: Vec<(i64, f64)> = (0..).zip(&heights).map(|(at, z)| (at, *z as f64)).collect();
            // The same heights on both edges of a face one wide: what tilts across does not help.
            let edge = |y| line.iter().map(move |(x, z)| FacePoint { x: *x, y, z: *z });
            let face: Vec<FacePoint> = edge(0).chain(edge(1)).collect();
            let (straight, flat) = (straightness(&line, Some(span)), flatness(&face, None));
            prop_assert!(straight.is_some() && flat.is_some());
            if let Some((straight, flat)) = straight.zip(flat) {
                prop_assert!((straight.minimum_zone - flat.minimum_zone).abs() < 1e-9);
                prop_assert!(straight.neighbour <= straight.minimum_zone + 1e-9 || line.len() == 3);
                prop_assert!(straight.span_zone.unwrap_or(-1.0) <= straight.minimum_zone + 1e-9);
            }
        }
    }

    #[test]
    fn points_on_one_line_are_no_face() {
        let on_a_line = [(0, 0), (1, 2), (2, 4), (3, 6)].map(|(x, y)| FacePoint { x, y, z: 0.0 });
        assert!(flatness(&on_a_line, None).is_none());
        assert!(straightness(&[(0, 0.0), (5, 1.0)], None).is_none());
    }
}
