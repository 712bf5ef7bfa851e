//! Thrust washers: the shop's boxes of them, which of them put end play right, and fitting them.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::choose::{
    NoWashers, ThrustNeed, WasherAim, WasherChoice, WasherProposal, WasherSide, WasherWish, propose_washers,
    thrust_need,
};
use jagged_pin_core::engine::Place;
use jagged_pin_core::log::{FittedPair, WasherIn, WashersIn, What};
use jagged_pin_core::maths::State as Verdict;
use jagged_pin_core::record::next_fact;
use jagged_pin_core::shells::{Half, MoveKind, WasherBox};
use jagged_pin_core::units::check_text;
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_store::{MoveOutcome, Sent, ShelfMove};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::clock;
use crate::http::answers::{answer, find, length};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;
use crate::views::washers::{WasherBoxView, WasherForm, box_view, known_box, on_shelf};

/// Every box of thrust washers, with its shelf.
#[utoipa::path(get, path = "/api/v1/washers",
    responses((status = 200, body = Vec<WasherBoxView>), (status = 401, body = ProblemBody)))]
pub(super) async fn washers(State(state): State<AppState>, _: Who) -> Result<Json<Vec<WasherBoxView>>, Problem> {
    let mut all = Vec::new();
    for known in state.store.washer_boxes().await? {
        all.push(box_view(&state, known).await?);
    }
    Ok(Json(all))
}

/// Opens a box of washers, or changes one; refused when somebody changed it meanwhile.
#[utoipa::path(put, path = "/api/v1/washers/{box}", request_body = WasherForm,
    params(("box" = String, Path, description = "Short name of the box")),
    responses((status = 200, body = WasherBoxView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn put_washers(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<String>,
    Body(form): Body<WasherForm>,
) -> Result<Json<WasherBoxView>, Problem> {
    who.must(|c| c.set_targets, "an assembler or the lead")?;
    let version = form.version;
    let washers = form.washers()?;
    washers.check().map_err(|flaw| Problem::field(flaw.part, flaw.to_string()))?;
    let plain = |c: char| c.is_ascii_alphanumeric() || c == '-';
    if washers.id != id || !washers.id.chars().all(plain) {
        return Err(Problem::field("id", "a short name of letters, digits and hyphens"));
    }
    for on in state.store.shelf(&id).await?.iter().filter(|on| on.count > 0) {
        if !washers.classes.iter().any(|c| c.id == on.class) {
            let what = format!("{} halves of {} lie on the shelf: count them out first", on.count, on.class);
            return Err(Problem::field("classes", what));
        }
    }
    if !state.store.put_washers(version, &washers).await? {
        return Err(Problem::ChangedMeanwhile);
    }
    Ok(Json(box_view(&state, known_box(&state, &id).await?).await?))
}

/// A change of a shelf of washers.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct MoveWashers {
    /// Made by the client: sending it twice does it once.
    id: Uuid,
    /// Which thickness.
    class: String,
    /// What was done.
    kind: MoveKind,
    /// By how many halves: received ones are more than none, picked ones less.
    by: i32,
    /// Why, in the words of whoever decided it.
    reason: String,
    /// Where they lie, where that is to be said anew.
    place: Option<String>,
}

/// Longest name of a place on the shelf.
const LONGEST_PLACE: usize = 20;

/// Receives, picks or corrects halves. A shelf never goes below empty.
#[utoipa::path(post, path = "/api/v1/washers/{box}/moves", request_body = MoveWashers,
    params(("box" = String, Path, description = "Short name of the box")),
    responses((status = 200, body = WasherBoxView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn move_washers(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<String>,
    Body(request): Body<MoveWashers>,
) -> Result<Json<WasherBoxView>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    if request.kind == MoveKind::Corrected {
        who.must(|c| c.correct_shelf, "somebody who may correct the shelf")?;
    }
    let known = known_box(&state, &id).await?;
    if !known.washers.classes.iter().any(|c| c.id == request.class) {
        return Err(Problem::field("class", "this box has no such thickness"));
    }
    if !request.kind.goes(request.by) {
        return Err(Problem::field("by", "received is more than none, picked is less, corrected is either"));
    }
    check_text(&request.reason, "the reason").map_err(|_| Problem::field("reason", "say why, in a few words"))?;
    if let Some(place) = &request.place {
        if place.chars().count() > LONGEST_PLACE {
            return Err(Problem::field("place", "a place on the shelf has at most 20 characters"));
        }
        state.store.put_place(&id, &on_shelf(&request.class, place.trim())).await?;
    }
    let MoveWashers { id: of, class, kind, by, reason, .. } = request;
    let change = moved(&id, (of, class, kind, by), reason.trim().to_owned(), &who);
    match state.store.move_shells(&change).await? {
        MoveOutcome::Done(_) => Ok(Json(box_view(&state, known).await?)),
        MoveOutcome::NotThere(left) => Err(Problem::ShelfEmpty { left }),
    }
}

fn moved(from: &str, (id, class, kind, by): (Uuid, String, MoveKind, i32), reason: String, who: &Who) -> ShelfMove {
    ShelfMove {
        id,
        family: from.to_owned(),
        half: Half::Either,
        class,
        undersize: Length::ZERO,
        kind,
        by,
        reason,
        who: who.account.person.clone(),
        at: clock::now(),
    }
}

/// What is asked of a box for a build.
#[derive(Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct AskWashers {
    /// The box.
    from: String,
    /// What is made better first.
    best: WasherAim,
    /// Whether washers may be lapped.
    lap: bool,
    /// How far forward of the middle of its rods the crank stands, as typed; empty where nobody knows.
    #[serde(default)]
    stands: String,
    /// How far forward it may stand; empty without a limit.
    #[serde(default)]
    max_forward: String,
    /// How far back it may stand; empty without a limit.
    #[serde(default)]
    max_rearward: String,
}

impl AskWashers {
    fn wish(&self, unit: Unit) -> Result<WasherWish, Problem> {
        let given = |text: &str, field| match text.trim() {
            "" => Ok(None),
            text => length(text, unit, field).map(Some),
        };
        let limit = |text: &str, field| match given(text, field)? {
            Some(limit) if limit < Length::ZERO => Err(Problem::field(field, "a limit is zero or more")),
            limit => Ok(limit),
        };
        Ok(WasherWish {
            aim: self.best,
            lap: self.lap,
            stands: given(&self.stands, "stands")?,
            max_forward: limit(&self.max_forward, "max_forward")?,
            max_rearward: limit(&self.max_rearward, "max_rearward")?,
        })
    }
}

async fn proposal(state: &AppState, build: &Build, ask: &AskWashers) -> Result<(WasherBox, WasherProposal), Problem> {
    let of = known_box(state, &ask.from).await?.washers;
    let shelf = state.store.shelf(&of.id).await?;
    let count = |class: &str| shelf.iter().find(|s| s.class == class).map_or(0, |s| s.count);
    let proposed = propose_washers(build, &of, count, ask.wish(build.unit)?).map_err(none)?;
    Ok((of, proposed))
}

fn none(why: NoWashers) -> Problem {
    let code = match why {
        NoWashers::NotMeasured => "nothing_measured",
        NoWashers::NoTarget => "no_target",
    };
    Problem::Unanswerable { code, detail: why.to_string() }
}

/// How much thicker or thinner the washers of a build have to be, whatever lies on the shelf.
#[utoipa::path(get, path = "/api/v1/builds/{build}/thrust-need",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = ThrustNeed), (status = "4XX", body = ProblemBody)))]
pub(super) async fn ask_thrust_need(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Json<ThrustNeed>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    Ok(Json(thrust_need(&build).map_err(none)?))
}

/// The washers that put the end play of a build right, proven; nothing is changed.
#[utoipa::path(post, path = "/api/v1/builds/{build}/washers", request_body = AskWashers,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = WasherProposal), (status = "4XX", body = ProblemBody)))]
pub(super) async fn ask_washers(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
    Body(ask): Body<AskWashers>,
) -> Result<Json<WasherProposal>, Problem> {
    let id = find(&state, &name).await?;
    let build = state.store.build(id).await?;
    Ok(Json(proposal(&state, &build, &ask).await?.1))
}

/// Washers to be fitted: a choice as it was seen.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct FitWashers {
    /// Made by the client: sending it twice fits them once.
    id: Uuid,
    /// What was asked.
    ask: AskWashers,
    /// The washer of the front as it was seen; absent where the one that is there stays.
    front: Option<String>,
    /// What is lapped off it.
    front_lap: Length,
    /// The same of the rear.
    rear: Option<String>,
    /// What is lapped off it.
    rear_lap: Length,
    /// Steel backs to the housing, linings to the crank, looked at on both sides.
    backs_to_housing: bool,
    /// Grooves open, tangs in their slots, no half in the other's place.
    grooves_open: bool,
    /// Why, and what was seen.
    note: String,
}

impl FitWashers {
    fn is(&self, choice: &WasherChoice) -> bool {
        let side = |side: &WasherSide, class: &Option<String>, lap| side.class == *class && side.lap == lap;
        side(&choice.front, &self.front, self.front_lap) && side(&choice.rear, &self.rear, self.rear_lap)
    }
}

/// Fits washers: takes their halves off the shelf, and records them with the end play they promise. It is predicted until it
/// is measured again. Refused when shelf or build are not as they were seen, and while nobody looked how they face.
#[utoipa::path(post, path = "/api/v1/builds/{build}/washers/fit", request_body = FitWashers,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn fit_washers(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<FitWashers>,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    let id = find(&state, &name).await?;
    let viewer = who.account.person.id;
    let build = state.store.build(id).await?;
    let note = request.note.trim().to_owned();
    let again = |what: &What| {
        let lap = |w: &WashersIn| (w.front.lap, w.rear.lap) == (request.front_lap, request.rear_lap);
        matches!(what, What::Washers(w) if w.from == request.ask.from && w.note == note && lap(w))
    };
    let known = build.facts.iter().find(|f| f.id == request.id).map(|f| f.what.clone());
    let (what, moves, seq) = match known {
        // Sent again: what was kept, and the shelf is as it is.
        Some(what) if again(&what) => (what, Vec::new(), build.seq()),
        Some(_) => return Err(Problem::IdReused),
        None => {
            let (of, proposed) = proposal(&state, &build, &request.ask).await?;
            let choice = proposed.choices.iter().find(|c| request.is(c)).ok_or(Problem::ChangedMeanwhile)?;
            let what = What::Washers(fitted(&request, choice, note));
            (what, taken(&request, &of, choice, (&build.code, &who))?, proposed.seq)
        }
    };
    let (by, fact_id, sent) = (who.account.person.clone(), request.id, what.clone());
    let decide = move |build: &Build| -> Result<_, Problem> {
        let fact = next_fact(build, fact_id, clock::now(), by, what)?;
        if build.seq() == seq { Ok((vec![fact], moves)) } else { Err(Problem::ChangedMeanwhile) }
    };
    let to = Sent { id: fact_id, by: viewer };
    let recorded = state.store.record_moving(id, to, move |known| known.what == sent, decide).await?;
    Ok(answer(&state, &recorded, viewer))
}

fn fitted(request: &FitWashers, choice: &WasherChoice, note: String) -> WashersIn {
    let side = |s: &WasherSide| WasherIn { thickness: s.thickness, growth: s.growth, lap: s.lap };
    WashersIn {
        from: request.ask.from.clone(),
        front: side(&choice.front),
        rear: side(&choice.rear),
        promise: FittedPair {
            station: Place::THRUST,
            upper: choice.front.name.clone(),
            lower: choice.rear.name.clone(),
            clearance: Length::mean(&[choice.smallest, choice.largest]).unwrap_or(choice.smallest),
            expanded: choice.expanded,
        },
        shift: choice.shift,
        backs_to_housing: request.backs_to_housing,
        grooves_open: request.grooves_open,
        note,
    }
}

/// What fitting takes off the shelf; nothing is fitted that has to be bought first, and nothing that leaves it proven tight.
fn taken(
    request: &FitWashers,
    of: &WasherBox,
    choice: &WasherChoice,
    (code, who): (&str, &Who),
) -> Result<Vec<ShelfMove>, Problem> {
    if let Some(lacking) = choice.buy.first() {
        let detail = format!(
            "{} halves of {} have to come in first: order them, then receive them",
            lacking.halves, lacking.class
        );
        return Err(Problem::Unanswerable { code: "not_received", detail });
    }
    if choice.sides_changed == 0 {
        return Err(Problem::field("front", "nothing is changed by it"));
    }
    if choice.state == Verdict::Tight {
        return Err(Problem::field("front", "these leave the crank no room: a thrust that is tight burns"));
    }
    let sides = [&choice.front, &choice.rear].into_iter().zip(0_u128..).filter_map(|(side, n)| {
        let class = side.class.clone()?;
        // One identifier for each side, the same however often it is sent.
        let id = Uuid::from_u128(request.id.as_u128().wrapping_add(n + 1));
        let reason = format!("for {code} E, {}", if n == 0 { "front" } else { "rear" });
        Some(moved(&of.id, (id, class, MoveKind::Picked, -i32::from(of.halves)), reason, who))
    });
    Ok(sides.collect())
}
