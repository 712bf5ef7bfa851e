//! Signing the sheet: two different people, each with their own password.
use std::sync::Arc;

use axum::Json;
use axum::extract::State;
use jagged_pin_core::build::Build;
use jagged_pin_core::log::{Fact, SignerRole, What};
use jagged_pin_core::record::{Refusal, next_fact, signature_now};
use jagged_pin_store::Sent;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{answer, find};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;
use crate::{clock, password};

/// A signature. Whoever signs gives their own name and password, whoever is signed in at the bench.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewSignature {
    /// Made by the client: sending it twice signs once.
    id: Uuid,
    /// Signed as.
    role: SignerRole,
    /// The signer's name to sign in with.
    login: String,
    /// The signer's password.
    password: String,
    /// Sequence number of the assessment the signer saw.
    seq: u32,
}

/// Signs the sheet as assembler or checker; the second signature closes the seal.
#[utoipa::path(post, path = "/api/v1/builds/{build}/signatures", request_body = NewSignature,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn sign(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewSignature>,
) -> Result<Json<RecordedView>, Problem> {
    let build = find(&state, &name).await?;
    let NewSignature { id, role, login, password, seq } = request;
    let signer = password::check(&state, &login, &password, &who.whence()).await?;
    if !signer.capabilities.may_sign(role) {
        let ask = match role {
            SignerRole::Assembler => "an assembler, a checker or the lead",
            SignerRole::Checker => "a checker or the lead",
        };
        return Err(Problem::NotAllowed { role: signer.role, ask });
    }
    let by = signer.person;
    let signer = by.id;
    let (evaluated, key) = (Arc::clone(&state.evaluated), state.key.clone());
    let same = move |known: &Fact| match &known.what {
        What::Signature(s) => s.role == role && known.by.id == signer,
        _ => false,
    };
    let decide = move |build: &Build| -> Result<Fact, Problem> {
        if build.seq() != seq {
            return Err(Problem::ChangedMeanwhile);
        }
        if !evaluated.proof(build).holds() {
            return Err(Refusal::SealBroken.into());
        }
        let mut fact = next_fact(build, id, clock::now(), by, What::Signature(signature_now(build, role)))?;
        if let Some(key) = &key {
            key.put_on(&mut fact);
        }
        Ok(fact)
    };
    let recorded = state.store.record(build, Sent { id, by: signer }, same, decide).await?;
    Ok(answer(&state, &recorded, who.account.person.id))
}
