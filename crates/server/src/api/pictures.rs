//! Pictures as evidence: taken in, made smaller and upright, kept by their digest, shown again.
use std::collections::HashSet;

use axum::Json;
use axum::body::Bytes;
use axum::extract::State;
use axum::extract::rejection::BytesRejection;
use axum::http::{HeaderMap, HeaderValue, header};
use axum::response::{IntoResponse, Response};
use jagged_pin_core::Build;
use jagged_pin_core::engine::Place;
use jagged_pin_core::log::{Fact, Moment, Picture, What};
use jagged_pin_core::record::next_fact;
use jagged_pin_core::units::{Person, Timestamp};
use jagged_pin_pictures::{LARGEST_SENT, NoPicture, is_as_kept, prepare};
use jagged_pin_store::{KeptPicture, Sent};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::clock;
use crate::http::answers::{answer, find};
use crate::http::auth::Who;
use crate::http::extract::{Path, Query, essence};
use crate::http::problem::{Problem, ProblemBody};
use crate::secrets::digest;
use crate::state::AppState;
use crate::views::changes::RecordedView;
use crate::views::picture::{PictureFile, pictures_of};

/// The largest body of a picture.
pub(super) const LARGEST: usize = LARGEST_SENT + 64 * 1024;

/// What a picture shows.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct NewPicture {
    /// Made by the client: sent twice, kept once.
    id: Uuid,
    /// Where.
    #[param(value_type = String)]
    place: Place,
    /// When.
    moment: Moment,
    /// What it shows.
    note: String,
}

/// A picture of a build.
#[derive(Serialize, ToSchema)]
pub(super) struct PictureView {
    /// The fact that names it.
    id: Uuid,
    /// Its place in the order.
    seq: u32,
    /// When it was kept.
    at: Timestamp,
    /// Who took it.
    by: Person,
    /// What it shows.
    #[serde(flatten)]
    picture: Picture,
    /// Whether it was struck: it counts no more.
    struck: bool,
}

fn refused(why: NoPicture) -> Problem {
    match why {
        NoPicture::TooLarge => Problem::PictureTooLarge(why.to_string()),
        NoPicture::NotReadable => Problem::field("picture", why.to_string()),
    }
}

/// Keeps a picture of a place. What the camera wrote beside it is not kept.
#[utoipa::path(post, path = "/api/v1/builds/{build}/pictures",
    params(("build" = String, Path, description = "Short name or id"), NewPicture),
    request_body(content = Vec<u8>, description = "A PNG or a JPEG", content_type = "image/jpeg"),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn take_picture(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Query(new): Query<NewPicture>,
    headers: HeaderMap,
    sent: Result<Bytes, BytesRejection>,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.measure, "somebody who measures")?;
    // Other sites cannot send this content type without asking first.
    let kind = headers.get(header::CONTENT_TYPE).and_then(|v| v.to_str().ok()).unwrap_or_default();
    if !matches!(essence(kind), "image/jpeg" | "image/png") {
        return Err(Problem::field("picture", format!("it came as \"{kind}\": a PNG or a JPEG is taken")));
    }
    let sent = sent.map_err(|_| refused(NoPicture::TooLarge))?;
    let kept = state.limits.picture(move || prepare(&sent)).await?.map_err(refused)?;
    let build = find(&state, &name).await?;
    let digest = digest(&kept.jpeg);
    let (place, moment, note) = (new.place, new.moment, new.note.trim().to_owned());
    let picture = Picture { place, moment, digest: digest.clone(), width: kept.width, height: kept.height, note };
    picture.check().map_err(jagged_pin_core::record::Refusal::from)?;
    let (what, by) = (What::Picture(picture), who.account.person);
    let (viewer, sent) = (by.id, what.clone());
    let same = move |known: &Fact| known.what.is_as_sent(&sent);
    let decide = move |b: &Build| Ok::<Fact, Problem>(next_fact(b, new.id, clock::now(), by, what)?);
    let to = Sent { id: new.id, by: viewer };
    let recorded = state.store.record_picture(build, to, same, (digest, kept.jpeg), decide).await?;
    Ok(answer(&state, &recorded, viewer))
}

/// The pictures of a build, the first one first.
#[utoipa::path(get, path = "/api/v1/builds/{build}/pictures",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Vec<PictureView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn list_pictures(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Json<Vec<PictureView>>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let struck = build.struck();
    let view = |f: &Fact| match &f.what {
        What::Picture(picture) => {
            let (id, seq, at, by, struck) = (f.id, f.seq, f.at, f.by.clone(), struck.contains(&f.id));
            Some(PictureView { id, seq, at, by, picture: picture.clone(), struck })
        }
        _ => None,
    };
    Ok(Json(build.facts.iter().filter_map(view).collect()))
}

/// One picture as it is kept. One that does not have its digest any more is not shown.
#[utoipa::path(get, path = "/api/v1/builds/{build}/pictures/{digest}",
    params(("build" = String, Path, description = "Short name or id"), ("digest" = String, Path, description = "SHA-256, hex")),
    responses((status = 200, body = Vec<u8>, content_type = "image/jpeg"), (status = "4XX", body = ProblemBody)))]
pub(super) async fn show_picture(
    State(state): State<AppState>,
    _: Who,
    Path((name, named)): Path<(String, String)>,
) -> Result<Response, Problem> {
    let build = find(&state, &name).await?;
    let named = named.to_ascii_lowercase();
    let jpeg = state.store.picture(build, &named).await?.ok_or(Problem::NoSuchAddress)?;
    if digest(&jpeg) != named {
        let detail = "this picture was changed behind the product: it is not what was recorded".into();
        return Err(Problem::Unanswerable { code: "picture_changed", detail });
    }
    let mut response = jpeg.into_response();
    let headers = response.headers_mut();
    headers.insert(header::CONTENT_TYPE, HeaderValue::from_static("image/jpeg"));
    headers.insert(header::CACHE_CONTROL, HeaderValue::from_static("private, max-age=31536000, immutable"));
    Ok(response)
}

/// The digests that a build's facts name.
fn named_in(build: &Build) -> HashSet<&str> {
    let named = build.facts.iter().filter_map(|f| match &f.what {
        What::Picture(p) => Some(p.digest.as_str()),
        _ => None,
    });
    named.collect()
}

/// The pictures of a build as they go into a file.
pub(super) async fn exported(state: &AppState, build: &Build) -> Result<Vec<PictureFile>, Problem> {
    let mut all = Vec::new();
    let mut named: Vec<&str> = named_in(build).into_iter().collect();
    named.sort_unstable();
    for digest in named {
        if let Some(jpeg) = state.store.picture(build.id, digest).await? {
            all.push(PictureFile::of(digest, &jpeg));
        }
    }
    Ok(all)
}

/// The pictures of a file as they are kept: each named by a fact of the build, each what its digest says, and still a picture;
/// none of them left out.
pub(super) fn read_in(build: &Build, files: &[PictureFile]) -> Result<Vec<KeptPicture>, Problem> {
    let named = named_in(build);
    let read = |file: &PictureFile| {
        let sound = file.read().filter(|jpeg| named.contains(file.digest.as_str()) && is_as_kept(jpeg));
        let jpeg =
            sound.ok_or_else(|| Problem::field("pictures", "a picture of this file is not what its facts name"))?;
        Ok((file.digest.clone(), jpeg))
    };
    let read: Vec<KeptPicture> = files.iter().map(read).collect::<Result<_, Problem>>()?;
    let is_there = |picture: &Picture| read.iter().any(|(digest, _)| *digest == picture.digest);
    match pictures_of(build).find(|(_, picture)| !is_there(picture)) {
        Some((fact, _)) => {
            Err(Problem::field("pictures", format!("the picture of fact {} is not in this file", fact.seq)))
        }
        None => Ok(read),
    }
}
