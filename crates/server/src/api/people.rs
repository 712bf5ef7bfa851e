//! The shop's people: who they are, what their role is, and letting them in.
use std::collections::{BTreeSet, HashMap};

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use jagged_pin_core::units::{Person, Timestamp, check_text};
use jagged_pin_store::{Member, PERSON_CHANGED, PeopleOutcome, ShopNote};
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::clock;
use crate::http::auth::Who;
use crate::http::extract::{Body, Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::password::{is_invisible, look_alike, new_login};
use crate::secrets::{self, digest};
use crate::state::AppState;

/// Whom somebody asks who does not run the shop.
const WHO_RUNS: &str = "the lead";
/// How long an invitation is good, ms: three days.
const INVITED_FOR: i64 = 3 * 24 * 60 * 60 * 1_000;
/// Longest name of a person.
const LONGEST_NAME: usize = 80;

/// Somebody of the shop.
#[derive(Serialize, ToSchema)]
pub(super) struct MemberView {
    /// Who it is.
    person: Person,
    /// The name they sign in with.
    login: String,
    /// Name of their role.
    role: String,
    /// Whether they may not sign in any more.
    disabled: bool,
    /// Whether they have a password.
    has_password: bool,
    /// Until when an invitation of theirs is good.
    invited_until: Option<Timestamp>,
    /// Sessions that are open.
    sessions: usize,
    /// When one of them was last used.
    seen: Option<Timestamp>,
    /// Counts the changes.
    version: u32,
}

async fn all(state: &AppState) -> Result<Json<Vec<MemberView>>, Problem> {
    let now = clock::now().0;
    let invited: HashMap<Uuid, i64> = state.store.invitations(now).await?.into_iter().collect();
    let open = state.store.open_sessions(None, now).await?;
    let view = |m: Member| {
        let theirs = || open.iter().filter(|s| s.person == m.person.id);
        MemberView {
            invited_until: invited.get(&m.person.id).map(|ends| Timestamp(*ends)),
            sessions: theirs().count(),
            seen: theirs().map(|s| s.seen).max(),
            person: m.person,
            login: m.login,
            role: m.role,
            disabled: m.disabled,
            has_password: m.has_password,
            version: m.version,
        }
    };
    Ok(Json(state.store.members().await?.into_iter().map(view).collect()))
}

/// Everybody who has or had an account.
#[utoipa::path(get, path = "/api/v1/people",
    responses((status = 200, body = Vec<MemberView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn people(State(state): State<AppState>, who: Who) -> Result<Json<Vec<MemberView>>, Problem> {
    who.must(|c| c.run_shop, WHO_RUNS)?;
    all(&state).await
}

/// Somebody to be added.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewPerson {
    /// Made by the client: sending it twice adds one.
    id: Uuid,
    /// Their name, as it stands under what they record.
    name: String,
    /// The name they sign in with.
    login: String,
    /// Name of their role.
    role: String,
}

fn name_of(text: &str) -> Result<String, Problem> {
    let name = text.trim();
    let fits = check_text(name, "the name").is_ok() && name.chars().count() <= LONGEST_NAME;
    if fits && !name.chars().any(is_invisible) {
        Ok(name.to_owned())
    } else {
        Err(Problem::field("name", format!("a name has 1 to {LONGEST_NAME} characters that can be seen")))
    }
}

/// Refuses a name, or a name to sign in with, that can be taken for that of somebody else of the shop.
fn is_told_apart(members: &[Member], id: Uuid, name: &str, login: &str) -> Result<(), Problem> {
    let others = || members.iter().filter(|m| m.person.id != id);
    if let Some(other) = others().find(|m| look_alike(&m.person.name, name)) {
        let why = format!("it can be taken for {}: add what tells them apart", other.person.name);
        return Err(Problem::field("name", why));
    }
    match others().find(|m| m.login != login && look_alike(&m.login, login)) {
        Some(other) => Err(Problem::field("login", format!("it can be taken for {}", other.login))),
        None => Ok(()),
    }
}

async fn role(state: &AppState, name: String) -> Result<String, Problem> {
    let known = state.store.roles().await?.into_iter().any(|r| r.name == name);
    if known { Ok(name) } else { Err(Problem::field("role", "the shop has no such role")) }
}

fn told(outcome: PeopleOutcome, login: &str) -> Result<(), Problem> {
    match outcome {
        PeopleOutcome::Done => Ok(()),
        PeopleOutcome::Changed => Err(Problem::ChangedMeanwhile),
        PeopleOutcome::LoginTaken => Err(Problem::LoginTaken(login.to_owned())),
        PeopleOutcome::NobodyLeft => Err(Problem::NobodyLeft),
    }
}

fn note(who: &Who, kind: &'static str, detail: Value) -> ShopNote {
    ShopNote { by: Some(who.account.person.clone()), at: clock::now(), kind, detail }
}

/// Adds somebody. They have no password until they take up an invitation.
#[utoipa::path(post, path = "/api/v1/people", request_body = NewPerson,
    responses((status = 200, body = Vec<MemberView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn add_person(
    State(state): State<AppState>,
    who: Who,
    Body(request): Body<NewPerson>,
) -> Result<Json<Vec<MemberView>>, Problem> {
    who.must(|c| c.run_shop, WHO_RUNS)?;
    let (name, login) = (name_of(&request.name)?, new_login(&request.login)?);
    is_told_apart(&state.store.members().await?, request.id, &name, &login)?;
    let role = role(&state, request.role).await?;
    let detail = json!({ "id": request.id, "name": name, "login": login, "role": role });
    let person = Person { id: request.id, name };
    let new = Member { person, login, role, disabled: false, has_password: false, version: 1 };
    told(state.store.add_member(&new, &note(&who, "person_added", detail)).await?, &new.login)?;
    all(&state).await
}

/// Somebody as they are from now on.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct ChangedPerson {
    /// Their name: what they recorded before keeps the name they had.
    name: String,
    /// The name they sign in with.
    login: String,
    /// Name of their role.
    role: String,
    /// Whether they may not sign in any more; their sessions end.
    disabled: bool,
    /// The version that was looked at.
    version: u32,
}

/// Changes somebody's name, login or role, shuts them out or lets them in again.
#[utoipa::path(put, path = "/api/v1/people/{person}", request_body = ChangedPerson,
    params(("person" = Uuid, Path, description = "Who")),
    responses((status = 200, body = Vec<MemberView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn put_person(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<Uuid>,
    Body(request): Body<ChangedPerson>,
) -> Result<Json<Vec<MemberView>>, Problem> {
    who.must(|c| c.run_shop, WHO_RUNS)?;
    let members = state.store.members().await?;
    let before = members.iter().find(|m| m.person.id == id).ok_or(Problem::NoSuchPerson)?;
    let now = Member {
        person: Person { id, name: name_of(&request.name)? },
        login: new_login(&request.login)?,
        role: role(&state, request.role).await?,
        disabled: request.disabled,
        version: request.version,
        has_password: before.has_password,
    };
    if (&now.person.name, &now.login) != (&before.person.name, &before.login) {
        is_told_apart(&members, id, &now.person.name, &now.login)?;
    }
    let shown = |m: &Member| json!({ "name": m.person.name, "login": m.login, "role": m.role, "disabled": m.disabled });
    let detail = json!({ "id": id, "before": shown(before), "now": shown(&now) });
    told(state.store.put_member(&now, &note(&who, PERSON_CHANGED, detail)).await?, &now.login)?;
    if now.disabled {
        state.store.end_sessions(id, None).await?;
        state.store.forget_browsers(id).await?;
    }
    all(&state).await
}

/// An invitation: good once, and for some days.
#[derive(Serialize, ToSchema)]
pub(super) struct InvitationView {
    /// The secret of it: shown once, here. It goes behind `/invitation#`.
    secret: String,
    /// Until when it is good.
    until: Timestamp,
}

/// Hands out an invitation, with which somebody gives themselves a password. One before it is void.
#[utoipa::path(post, path = "/api/v1/people/{person}/invitation",
    params(("person" = Uuid, Path, description = "Who")),
    responses((status = 200, body = InvitationView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn invite(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<Uuid>,
) -> Result<Json<InvitationView>, Problem> {
    who.must(|c| c.run_shop, WHO_RUNS)?;
    let member = state.store.members().await?.into_iter().find(|m| m.person.id == id).ok_or(Problem::NoSuchPerson)?;
    let (secret, until) = (secrets::secret(), clock::now().0.saturating_add(INVITED_FOR));
    state.store.invite(&digest(&secret), id, until).await?;
    let detail = json!({ "id": id, "name": member.person.name });
    state.store.note_shop(&note(&who, "person_invited", detail)).await?;
    Ok(Json(InvitationView { secret, until: Timestamp(until) }))
}

/// Ends every session of somebody, and makes every browser of theirs a stranger.
#[utoipa::path(delete, path = "/api/v1/people/{person}/sessions",
    params(("person" = Uuid, Path, description = "Who")),
    responses((status = 204), (status = "4XX", body = ProblemBody)))]
pub(super) async fn end_sessions_of(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<Uuid>,
) -> Result<StatusCode, Problem> {
    who.must(|c| c.run_shop, WHO_RUNS)?;
    let member = state.store.members().await?.into_iter().find(|m| m.person.id == id).ok_or(Problem::NoSuchPerson)?;
    let own = (id == who.account.person.id).then_some(who.session.as_str());
    state.store.end_sessions(id, own).await?;
    state.store.forget_browsers(id).await?;
    let detail = json!({ "id": id, "name": member.person.name });
    state.store.note_shop(&note(&who, "sessions_ended", detail)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A line of the shop's log.
#[derive(Serialize, ToSchema)]
pub(super) struct LogLine {
    /// Its place.
    seq: i64,
    /// When.
    at: Timestamp,
    /// Who; nobody where it was done from the command line.
    by: Option<Person>,
    /// What sort of thing was done.
    kind: String,
    /// What was done, in words.
    text: String,
}

/// Lines of one answer.
const LINES: i64 = 100;

/// Which lines of the log.
#[derive(Deserialize, utoipa::IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct LogAsk {
    /// Lines before that place; the last ones unless said.
    before: Option<i64>,
}

/// The shop's own log, the latest first: people, roles, and builds that were removed.
#[utoipa::path(get, path = "/api/v1/shop-log", params(LogAsk),
    responses((status = 200, body = Vec<LogLine>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn shop_log(
    State(state): State<AppState>,
    who: Who,
    Query(ask): Query<LogAsk>,
) -> Result<Json<Vec<LogLine>>, Problem> {
    who.must(|c| c.run_shop, WHO_RUNS)?;
    let lines = state.store.shop_log(ask.before, LINES).await?;
    let line = |l: jagged_pin_store::ShopLine| {
        let text = words(&l.kind, &l.detail);
        LogLine { seq: l.seq, at: l.at, by: l.by, kind: l.kind, text }
    };
    Ok(Json(lines.into_iter().map(line).collect()))
}

/// A line in words.
fn words(kind: &str, detail: &Value) -> String {
    let said = |name: &str| detail[name].as_str().unwrap_or_default().to_owned();
    match kind {
        "shop_opened" => {
            format!("{} opened, with {} ({}) as {}", said("shop"), said("name"), said("login"), said("role"))
        }
        "person_added" => format!("{} added as {}, signs in as {}", said("name"), said("role"), said("login")),
        PERSON_CHANGED => changed(&detail["before"], &detail["now"]),
        "person_invited" => format!("{} invited", said("name")),
        "password_set" => format!("{} has a new password ({})", said("name"), said("how")),
        "sessions_ended" => format!("every session of {} ended", said("name")),
        "role_changed" => format!("what the role {} allows was changed", said("role")),
        "build_removed" => {
            format!("{} ({}, {} facts) removed: {}", said("code"), said("engine"), detail["facts"], said("reason"))
        }
        "gauge_changed" => {
            let figures = |of: &str| {
                let at = |name: &str| plain(&detail[of][name]).to_owned();
                format!(
                    "step {}, repeats within {}, calibration {}",
                    at("resolution"),
                    at("repeatability"),
                    at("calibration")
                )
            };
            let was = if detail["before"].is_null() { String::new() } else { format!("; was {}", figures("before")) };
            format!("gauge {}: {}{was}", said("gauge"), figures("now"))
        }
        "build_put_away" => format!("{} put away: {}", said("code"), said("reason")),
        "build_taken_out" => format!("{} taken out again", said("code")),
        "presets_changed" => {
            let name = |p: &Value| plain(&p["name"]).to_owned();
            let names: BTreeSet<String> = detail["presets"].as_array().into_iter().flatten().map(name).collect();
            let names = names.into_iter().collect::<Vec<_>>().join(", ");
            format!("the windows that targets start from are now: {names}")
        }
        "engine_added" => format!("engine {} entered", said("engine")),
        other => other.replace('_', " "),
    }
}

fn changed(before: &Value, now: &Value) -> String {
    let name = before["name"].as_str().unwrap_or_default();
    let mut what: Vec<String> = [("name", "called"), ("login", "signs in as"), ("role", "is")]
        .iter()
        .filter(|(field, _)| before[field] != now[field])
        .map(|(field, words)| format!("{words} {} (was {})", plain(&now[field]), plain(&before[field])))
        .collect();
    match (before["disabled"].as_bool(), now["disabled"].as_bool()) {
        (Some(false), Some(true)) => what.push("shut out".into()),
        (Some(true), Some(false)) => what.push("let in again".into()),
        _ => {}
    }
    format!("{name}: {}", what.join(", "))
}

fn plain(value: &Value) -> &str {
    value.as_str().unwrap_or_default()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_change_of_a_person_says_what_was_and_what_is() {
        let before = json!({ "name": "A. Kell", "login": "kell", "role": "checker", "disabled": false });
        let now = json!({ "name": "A. Kell", "login": "kell", "role": "lead", "disabled": true });
        let detail = json!({ "before": before, "now": now });
        assert_eq!(words(PERSON_CHANGED, &detail), "A. Kell: is lead (was checker), shut out");
    }

    #[test]
    fn names_to_sign_in_with_are_plain() {
        assert_eq!(new_login(" m.harrow ").ok().as_deref(), Some("m.harrow"));
        for wrong in ["", "a b", "a/b", "o\u{202e}d"] {
            assert!(new_login(wrong).is_err(), "{wrong:?}");
        }
        assert!(
            name_of("M. Harrow").is_ok() && name_of("\u{202e}worraH").is_err() && name_of(&"x".repeat(81)).is_err()
        );
    }
}
