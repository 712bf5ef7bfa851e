//! The block as a whole: its decks, the stack under every piston, the tunnel freed of its sizes, strokes and index of the
//! pins, and what a cut of the deck or a line hone changes elsewhere.
//!
//! * Twist of a deck from its corners, one after the other around: `((z1 + z3) - (z2 + z4)) / 2`: the long edges show none of it.
//!   A corner that was misread twists it too; the stacks below tell which one it was.
//! * Stack of a cylinder: `deck height - stroke / 2 - rod - compression height`, the deck taken where that cylinder stands, in
//!   line between its ends. It is held against what was measured; where they differ beyond both doubts, the part is named that
//!   the row would make likelier by the most if it had been misread by all of that: `(d^2 - (d - m)^2) / 2 s^2`, `d` how far
//!   it lies off the others, `s` their scatter, `m` the difference.
//! * A straight edge in the tunnel shows size and offset together: `offset = gap - (D - D0) / 2`, `D0` the mean of the end
//!   housings where the edge rests. Sizes come first. Neighbours: `offset - (offset before + offset after) / 2`.
//! * Index of pins that should be level: `asin(dh / throw)`.
//! * A cut `x` takes `x` from every deck clearance of that bank and `(pi / 4) B^2 x` from every volume. A line hone after `q`
//!   off the caps moves the axis `q / 2` into the block: deck clearances less by `q / 2 cos(half the bank angle)`, `q` of chain
//!   slack more, backlash of gears less by `q tan 20`.
use serde::Serialize;

use crate::build::Build;
use crate::engine::{Axial, Figure, Place, PlaceKind, Position, Role};
use crate::evidence::mean_housing;
use crate::figure::FigureAssessment;
use crate::maths::combined;
use crate::units::Length;

const CORNER: Role = Role::new("deck_corner");
const CROWN: Role = Role::new("compression_height");
const ROD: Role = Role::new("rod_length");
const LEVEL: Role = Role::new("pin_level");
const TUNNEL: Role = Role::new("tunnel_gap");

/// A deck.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DeckPlan {
    /// Which.
    pub at: Place,
    /// Heights of its four corners, one after the other around; absent where one is not measured.
    pub corners: Option<[Length; 4]>,
    /// Their mean.
    pub mean: Option<Length>,
    /// How much it is twisted.
    pub twist: Option<Length>,
    /// How much higher its front stands than its rear.
    pub front_high: Option<Length>,
    /// The corner that was misread, where that explains the twist and the stacks below it at once.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub misread: Option<MisreadCorner>,
}

/// A corner of a deck that was misread.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MisreadCorner {
    /// Which corner of the deck.
    pub position: Position,
    /// By how much it reads too high; negative where it reads too low.
    pub by: Length,
}

/// The corners of a deck, one after the other around.
const CORNERS: [(Axial, i16); 4] = [(Axial::Front, 0), (Axial::Front, 180), (Axial::Rear, 180), (Axial::Rear, 0)];

/// One part of a stack.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum StackPart {
    /// The deck over the axis.
    Deck,
    /// The stroke of its pin.
    Stroke,
    /// The length of its rod.
    Rod,
    /// The compression height of its piston.
    Crown,
}

/// What a piston's stack comes to.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StackAt {
    /// The cylinder.
    pub at: Place,
    /// The deck over it.
    pub deck: Option<Place>,
    /// Parts that are not measured.
    pub missing: Vec<StackPart>,
    /// What the stack leaves between piston and deck; negative where the piston stands proud.
    pub reckoned: Option<Length>,
    /// What was measured.
    pub measured: Option<Length>,
    /// Measured less reckoned.
    pub differs: Option<Length>,
    /// What the doubts of both explain of that.
    pub explained: Option<Length>,
    /// Whether they do explain it; absent while one of both is not known.
    pub agrees: Option<bool>,
    /// The part that is off its row the most like the difference, where that is not explained.
    pub suspect: Option<StackPart>,
}

/// What is known of the line of a main's housing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TunnelAt {
    /// The main.
    pub at: Place,
    /// Vertical (0) or horizontal (90 degrees).
    pub angle: i16,
    /// What lies under the edge.
    pub gap: Length,
    /// Its offset from the line of the end mains, freed of its size; absent while a size is not known.
    pub offset: Option<Length>,
    /// Its step to the mean of its neighbours.
    pub step: Option<Length>,
}

/// The stroke of a pin.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StrokeAt {
    /// The pin.
    pub at: Place,
    /// Its stroke.
    pub stroke: Length,
    /// How much longer than the middle one of the crank; half of it is missing at that deck.
    pub longer: Length,
}

/// A pin that should be level with others.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct IndexAt {
    /// The pin.
    pub at: Place,
    /// The pins it should be level with.
    pub with: Vec<Place>,
    /// How much higher it stands than their mean.
    pub high: Length,
    /// That in degrees of the crank.
    pub degrees: f64,
}

/// What is asked to be done to the block.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct BlockCut {
    /// Off every deck.
    pub deck: Length,
    /// Off the faces of the main caps, before a line hone.
    pub caps: Length,
}

/// What that would change elsewhere.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CutChanges {
    /// Off every deck clearance.
    pub clearance: Length,
    /// The smallest deck clearance then, with its cylinder, where any is known.
    pub least: Option<LeastAt>,
    /// Off the volume of every cylinder, in cubic centimetres.
    pub volume_cc: f64,
    /// How far the axis of the crank moves into the block.
    pub axis: Length,
    /// How much slacker the chain gets.
    pub chain: Length,
    /// How much backlash gears lose.
    pub backlash: Length,
}

/// A cylinder and what it has.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LeastAt {
    /// Which.
    pub at: Place,
    /// What is left there.
    pub left: Length,
}

/// The block as a whole.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BlockPlan {
    /// Every deck.
    pub decks: Vec<DeckPlan>,
    /// Every cylinder's stack.
    pub stacks: Vec<StackAt>,
    /// Every main that was looked at under the edge.
    pub tunnel: Vec<TunnelAt>,
    /// Every stroke that is measured.
    pub strokes: Vec<StrokeAt>,
    /// Every pin whose height was held against others.
    pub index: Vec<IndexAt>,
    /// What was asked to be cut, and what that changes.
    pub changes: CutChanges,
}

/// What the figures of the block come to; `None` where its cylinders are not known.
pub fn block_plan(build: &Build, figures: &[FigureAssessment], cut: BlockCut) -> Option<BlockPlan> {
    build.layout.cylinders.as_ref()?;
    let found = Found { build, figures };
    let mut decks: Vec<DeckPlan> = build.layout.of_kind(PlaceKind::Deck).map(|at| found.deck(at)).collect();
    let mut stacks = found.stacks(&decks);
    for bank in 0..decks.len() {
        found.name_corner((bank, &mut decks), &mut stacks);
    }
    Some(BlockPlan {
        changes: found.changes(&stacks, cut),
        stacks,
        tunnel: found.tunnel(),
        strokes: found.strokes(),
        index: found.index(),
        decks,
    })
}

struct Found<'a> {
    build: &'a Build,
    figures: &'a [FigureAssessment],
}

/// A value with its expanded uncertainty.
type Valued = (Length, Length);

/// The parts of a stack, as far as they are known.
type Parts = [(StackPart, Option<Valued>); 4];

fn half(l: Length) -> Length {
    Length::mean(&[l, Length::ZERO]).unwrap_or_default()
}

/// How one part measures along the other cylinders.
#[derive(Debug, Clone, Copy)]
struct Usual {
    middle: Length,
    /// Standard deviation around the middle, in nanometres.
    scatter: f64,
}

impl Usual {
    /// Of the others; `None` where there is none.
    fn of(others: &[Length]) -> Option<Self> {
        let middle = Length::median(others)?;
        let squares: f64 = others.iter().map(|l| (*l - middle).as_f64().powi(2)).sum();
        Some(Usual { middle, scatter: (squares / others.len().saturating_sub(1).max(1) as f64).sqrt() })
    }

    /// How much likelier the part is what the row says, misread by all that the stack is off, than what was read: the
    /// difference of the logarithms. `None` where misreading makes it stranger than it is.
    fn likelier_misread(self, part: StackPart, (value, doubt): Valued, off: Length) -> Option<f64> {
        let reads = (value - self.middle).as_f64();
        // A deck that reads high leaves too much, everything else too little.
        let misread_by = if part == StackPart::Deck { -off.as_f64() } else { off.as_f64() };
        let is = reads - misread_by;
        let scatter = self.scatter.max(half(doubt).as_f64()).max(1.0);
        let gained = (reads * reads - is * is) / (2.0 * scatter * scatter);
        (gained > 0.0).then_some(gained)
    }
}

impl Found<'_> {
    /// A figure by its value, judged or not.
    fn figure(&self, figure: Figure, at: Place) -> Option<Valued> {
        let f = self.figures.iter().find(|f| f.figure == figure && f.station == at)?;
        let method = f.methods.iter().find(|m| m.complete)?;
        Some((method.clearance, method.budget.expanded))
    }

    /// A size that a figure of that place is made of.
    fn size(&self, role: Role, at: Place) -> Option<Valued> {
        let f = self.figures.iter().find(|f| f.station == at && f.measured.iter().any(|m| m.role == role))?;
        let method = f.methods.iter().find(|m| m.complete)?;
        Some((method.clearance, method.budget.expanded))
    }

    fn places(&self, role: Role, at: Place) -> Vec<(Position, Length)> {
        let measured = self.figures.iter().filter(|f| f.station == at).flat_map(|f| &f.measured);
        let size = measured.filter(|m| m.role == role).map(|m| &m.size).find(|s| s.complete);
        size.into_iter().flat_map(|s| &s.positions).filter_map(|p| Some((p.position, p.value?))).collect()
    }

    fn deck(&self, at: Place) -> DeckPlan {
        let known = self.places(CORNER, at);
        let corner = |axial, angle| known.iter().find(|(p, _)| (p.axial, p.angle) == (axial, angle)).map(|(_, z)| *z);
        let corners = match CORNERS.map(|(axial, angle)| corner(axial, angle)) {
            [Some(a), Some(b), Some(c), Some(d)] => Some([a, b, c, d]),
            _ => None,
        };
        DeckPlan {
            at,
            corners,
            mean: corners.and_then(|c| Length::mean(&c)),
            twist: corners.map(|[a, b, c, d]| half(a + c - b - d)),
            front_high: corners.map(|[a, b, c, d]| half(a + b - c - d)),
            misread: None,
        }
    }

    /// The number of a cylinder's deck, and where it stands along it: from half a length before the middle to half of it behind.
    fn along_deck(&self, banks: usize, cylinder: Place) -> Option<(usize, f64)> {
        let banks = banks.max(1);
        let number = usize::from(cylinder.number()).saturating_sub(1);
        let (bank, along) = (number.checked_rem(banks)?, number.checked_div(banks)?);
        let many = self.build.layout.cylinder_count().checked_div(banks)?.saturating_sub(1).max(1);
        Some((bank, along as f64 / many as f64 - 0.5))
    }

    /// Names the corner that was misread. A flat face has no twist, so one corner that reads `e` too high twists it by `e / 2`,
    /// and every corner could have; which of them it was show the stacks, for which it lifts the deck at its own end alone.
    fn name_corner(&self, (bank, decks): (usize, &mut [DeckPlan]), stacks: &mut [StackAt]) {
        let banks = decks.len();
        let Some(deck) = decks.get_mut(bank) else { return };
        let Some(twist) = deck.twist.filter(|t| *t != Length::ZERO) else { return };
        let here = |s: &StackAt| self.along_deck(banks, s.at).filter(|(b, _)| *b == bank).map(|(_, share)| share);
        let held: Vec<(f64, f64)> = stacks.iter().filter_map(|s| Some((here(s)?, s.differs?.as_f64()))).collect();
        let disagrees = stacks.iter().any(|s| here(s).is_some() && s.agrees == Some(false));
        if held.len() < 2 || !disagrees {
            return;
        }
        let by = |corner: usize| 2.0 * if corner.is_multiple_of(2) { twist.as_f64() } else { -twist.as_f64() };
        let lifts = |corner: usize, share: f64| {
            let end = if corner < 2 { -share } else { share };
            by(corner) * (0.25 + end / 2.0)
        };
        let squares = |lifted: &dyn Fn(f64) -> f64| held.iter().map(|(x, d)| (d + lifted(*x)).powi(2)).sum::<f64>();
        let each = (0..CORNERS.len()).map(|corner| (corner, squares(&|x| lifts(corner, x))));
        let Some((corner, left)) = each.min_by(|a, b| a.1.total_cmp(&b.1)) else { return };
        if left > squares(&|_| 0.0) / 4.0 {
            return;
        }
        deck.misread = CORNERS.get(corner).zip(Length::from_f64(by(corner))).map(|((axial, angle), by)| {
            MisreadCorner { position: Position { axial: *axial, angle: *angle, track: None }, by }
        });
        for stack in stacks.iter_mut().filter(|s| s.agrees == Some(false)) {
            let Some((share, differs)) = here(stack).zip(stack.differs) else { continue };
            let rest = Length::from_f64(differs.as_f64() + lifts(corner, share));
            if rest.zip(stack.explained).is_some_and(|(rest, explained)| rest.abs() <= explained) {
                stack.suspect = Some(StackPart::Deck);
            }
        }
    }

    /// The height of a deck where one of its cylinders stands.
    fn height(&self, decks: &[DeckPlan], cylinder: Place) -> Option<Valued> {
        let (bank, share) = self.along_deck(decks.len(), cylinder)?;
        let deck = decks.get(bank)?;
        let lower = deck.front_high?.as_f64() * share;
        let (_, doubt) = self.figure(Figure::DECK_HEIGHT, deck.at)?;
        Some((deck.mean? - Length::from_f64(lower)?, doubt))
    }

    fn stacks(&self, decks: &[DeckPlan]) -> Vec<StackAt> {
        let layout = &self.build.layout;
        let parts = |at: Place| {
            let rod = Place::rod(at.number());
            [
                (StackPart::Deck, self.height(decks, at)),
                (StackPart::Stroke, self.figure(Figure::STROKE, rod).map(|(s, u)| (half(s), half(u)))),
                (StackPart::Rod, self.size(ROD, rod)),
                (StackPart::Crown, self.size(CROWN, Place::wrist_pin(at.number()))),
            ]
        };
        let all: Vec<(Place, Parts)> = layout.of_kind(PlaceKind::Cylinder).map(|at| (at, parts(at))).collect();
        let usual = |i: usize, at: Place| {
            let others = all.iter().filter(|(other, _)| *other != at);
            let row: Vec<Length> = others.filter_map(|(_, p)| p.get(i)?.1.map(|(v, _)| v)).collect();
            Usual::of(&row)
        };
        let of = |at: Place| std::array::from_fn(|i| usual(i, at));
        let deck = |at: Place| decks.get(self.along_deck(decks.len(), at)?.0).map(|deck| deck.at);
        all.iter().map(|(at, parts)| self.stack((*at, deck(*at)), parts, of(*at))).collect()
    }

    fn stack(&self, (at, deck): (Place, Option<Place>), parts: &Parts, usual: [Option<Usual>; 4]) -> StackAt {
        let missing = parts.iter().filter(|(_, known)| known.is_none()).map(|(part, _)| *part).collect();
        let values: Option<Vec<Valued>> = parts.iter().map(|(_, known)| *known).collect();
        let reckoned = values.as_deref().and_then(|values| match values {
            [deck, rest @ ..] => Some(rest.iter().fold(deck.0, |left, (part, _)| left - *part)),
            [] => None,
        });
        let own = self.figure(Figure::DECK_CLEARANCE, at);
        let measured = own.map(|(value, _)| value);
        let differs = measured.zip(reckoned).map(|(m, r)| m - r);
        let doubts = own.iter().chain(values.iter().flatten()).map(|(_, u)| u.as_f64());
        let explained = differs.and_then(|_| Length::from_f64(combined(doubts)));
        let agrees = differs.zip(explained).map(|(d, u)| d.abs() <= u);
        let unexplained = differs.filter(|_| agrees == Some(false));
        let suspect = unexplained.and_then(|off| {
            let likelier = |((part, known), usual): (&(StackPart, Option<Valued>), Option<Usual>)| {
                let (value, doubt) = (*known)?;
                Some((usual?.likelier_misread(*part, (value, doubt), off)?, *part))
            };
            let found = parts.iter().zip(usual).filter_map(likelier).max_by(|a, b| a.0.total_cmp(&b.0));
            found.map(|(_, part)| part)
        });
        StackAt { at, deck, missing, reckoned, measured, differs, explained, agrees, suspect }
    }

    fn tunnel(&self) -> Vec<TunnelAt> {
        let mains: Vec<Place> = self.build.layout.of_kind(PlaceKind::Main).collect();
        let housing = |at: Place| {
            let f = self.figures.iter().find(|f| f.figure == Figure::OIL_CLEARANCE && f.station == at)?;
            mean_housing(f.housing()).map(|(mean, _)| mean)
        };
        let sizes: Vec<Option<Length>> = mains.iter().map(|at| housing(*at)).collect();
        let ends = sizes.first().copied().flatten().zip(sizes.last().copied().flatten());
        let rests = ends.and_then(|(a, b)| Length::mean(&[a, b]));
        let mut all = Vec::new();
        for angle in [0, 90] {
            let gap = |at: Place| self.places(TUNNEL, at).into_iter().find(|(p, _)| p.angle == angle).map(|(_, g)| g);
            let offsets: Vec<Option<Length>> =
                mains.iter().zip(&sizes).map(|(at, size)| Some(gap(*at)? - half((*size)? - rests?))).collect();
            for (i, at) in mains.iter().enumerate() {
                let Some(gap) = gap(*at) else { continue };
                let offset = offsets.get(i).copied().flatten();
                let beside = i.checked_sub(1).and_then(|b| offsets.get(b).copied().flatten());
                let after = offsets.get(i.saturating_add(1)).copied().flatten();
                let step = offset.zip(beside.zip(after)).map(|(o, (b, a))| o - half(a + b));
                all.push(TunnelAt { at: *at, angle, gap, offset, step });
            }
        }
        all
    }

    fn strokes(&self) -> Vec<StrokeAt> {
        let pins = self.build.layout.of_kind(PlaceKind::Pin);
        let known: Vec<(Place, Length)> = pins
            .filter_map(|at| Some((at, self.figure(Figure::STROKE, self.build.layout.bearing_on(at))?.0)))
            .collect();
        let all: Vec<Length> = known.iter().map(|(_, s)| *s).collect();
        let Some(middle) = Length::median(&all) else { return Vec::new() };
        known.into_iter().map(|(at, stroke)| StrokeAt { at, stroke, longer: stroke - middle }).collect()
    }

    fn index(&self) -> Vec<IndexAt> {
        // Pins that were never said to stand level are not out of index with each other.
        if !self.build.layout.crank.knows_its_throws() {
            return Vec::new();
        }
        let phases: Vec<i16> = self.build.layout.crank.bays.iter().flatten().copied().collect();
        let pins: Vec<(Place, i16, Length, Length)> = self
            .build
            .layout
            .of_kind(PlaceKind::Pin)
            .zip(phases)
            .filter_map(|(at, phase)| {
                let rod = self.build.layout.bearing_on(at);
                let stroke = self.figure(Figure::STROKE, rod).map_or(self.build.layout.crank.throw, |(s, _)| half(s));
                Some((at, phase, self.size(LEVEL, rod)?.0, stroke))
            })
            .collect();
        let one = |(at, phase, height, throw): &(Place, i16, Length, Length)| {
            let level: Vec<&(Place, i16, Length, Length)> =
                pins.iter().filter(|(other, p, ..)| other != at && p == phase).collect();
            let heights: Vec<Length> = level.iter().map(|(_, _, h, _)| *h).collect();
            let high = *height - Length::mean(&heights)?;
            let sine = high.as_f64() / throw.as_f64().max(1.0);
            let degrees = sine.clamp(-1.0, 1.0).asin().to_degrees();
            Some(IndexAt { at: *at, with: level.iter().map(|(p, ..)| *p).collect(), high, degrees })
        };
        pins.iter().filter_map(one).collect()
    }

    fn changes(&self, stacks: &[StackAt], cut: BlockCut) -> CutChanges {
        let axis = half(cut.caps);
        let lean = (f64::from(self.build.layout.bank_angle()) / 2.0).to_radians().cos();
        let up = Length::from_f64(axis.as_f64() * lean).unwrap_or_default();
        let clearance = cut.deck + up;
        let known =
            stacks.iter().filter_map(|s| Some(LeastAt { at: s.at, left: s.measured.or(s.reckoned)? - clearance }));
        let bore_cm = self.build.layout.cylinders.as_ref().map_or(0.0, |c| c.bore.as_f64() / 1e7);
        let area = std::f64::consts::FRAC_PI_4 * bore_cm * bore_cm;
        let backlash = Length::from_f64(cut.caps.as_f64() * 20f64.to_radians().tan()).unwrap_or_default();
        CutChanges {
            clearance,
            least: known.min_by_key(|l| l.left),
            volume_cc: area * clearance.as_f64() / 1e7,
            axis,
            chain: cut.caps,
            backlash,
        }
    }
}
