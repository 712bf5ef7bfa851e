//! What is asked of a choice of shells, and what it is asked of: the same for every route that proposes or fits.
use std::sync::Arc;

use jagged_pin_core::build::fitted_in;
use jagged_pin_core::choose::{NoProposal, Objective, Odd, Proposal, ProposalWish, foreign_in, propose};
use jagged_pin_core::engine::Place;
use jagged_pin_core::log::{OddHalf, Reckoning};
use jagged_pin_core::shells::{OnShelf, ShellFamily};
use jagged_pin_core::{Build, Length};
use serde::Deserialize;
use utoipa::ToSchema;

use crate::evaluated::Evaluated;
use crate::http::answers::{evaluated, length};
use crate::http::auth::Who;
use crate::http::problem::Problem;
use crate::limits::Limits;
use crate::state::AppState;

/// What is asked of the shells.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AskShells {
    /// The family.
    family: String,
    /// The undersize, in nanometres.
    undersize: Length,
    /// What is best.
    best: Best,
    /// Whether halves of different classes may be mixed, up to a step.
    mix: bool,
    /// Whether sets may be bought.
    buy: bool,
    /// Stations that keep what they have.
    #[serde(default)]
    kept: Vec<Place>,
    /// Classes that are not to be used.
    #[serde(default)]
    without: Vec<String>,
    /// What a coating on both halves changes, as typed, such as `-0.0005`; empty for none.
    #[serde(default)]
    pub(crate) coating: String,
    /// By how many gauge steps every window is moved, to see what another target would do.
    #[serde(default)]
    moved: i16,
}

/// A question with what it is asked of.
pub(crate) struct Asked {
    pub(crate) build: Arc<Build>,
    seen: Arc<Evaluated>,
    pub(crate) family: ShellFamily,
    shelf: Vec<OnShelf>,
    pub(crate) wish: ProposalWish,
}

impl AskShells {
    pub(crate) async fn asked(self, state: &AppState, who: &Who, build: &str) -> Result<Asked, Problem> {
        let seen = evaluated(state, who, build).await?;
        let build = Arc::clone(&seen.build);
        let families: Vec<ShellFamily> = state.store.shell_families().await?.into_iter().map(|k| k.family).collect();
        let family = families.iter().find(|f| f.id == self.family).cloned().ok_or(Problem::NoSuchFamily)?;
        let shelf = state.store.shelf(&family.id).await?;
        let coating = match self.coating.trim() {
            "" => Length::ZERO,
            text => length(text, build.unit, "coating")?,
        };
        let rules = build.rules_now().clone();
        let step = build.unit.dial_step().nm();
        let moved = i64::from(self.moved.clamp(-FARTHEST, FARTHEST));
        let wish = ProposalWish {
            row: family.row,
            undersize: self.undersize,
            objective: match self.best {
                Best::Closest => Objective::Closest,
                Best::Thriftiest => Objective::Thriftiest,
            },
            max_step: match (self.mix, rules.reckoning) {
                (false, _) => Length::ZERO,
                // By the first reckoning a pair was mixed by one step of its family.
                (true, Reckoning::First) if rules.max_step.is_none() => family.step(),
                (true, _) => rules.max_step(),
            },
            odd: rules.odd_half.map(|half| match half {
                OddHalf::Upper => Odd::Upper,
                OddHalf::Lower => Odd::Lower,
            }),
            foreign: foreign_in(&build, &family, &families),
            fitted: fitted_in(&build, &family),
            kept: self.kept,
            without: self.without,
            coating,
            buy: self.buy,
            moved: Length::from_nm(moved * step),
        };
        Ok(Asked { build, seen, family, shelf, wish })
    }
}

impl Asked {
    /// The search may take a while: it must not hold up the others.
    pub(crate) async fn proposal(self, limits: &Limits) -> Result<(Self, Proposal), Problem> {
        let found = limits.search(move || {
            let found = propose(&self.build, &self.seen.assessment, &self.family, &self.shelf, &self.wish);
            (self, found)
        });
        match found.await? {
            (asked, Ok(proposal)) => Ok((asked, proposal)),
            (_, Err(reason)) => Err(no_proposal(&reason)),
        }
    }
}

fn no_proposal(reason: &NoProposal) -> Problem {
    let code = match reason {
        NoProposal::NothingMeasured => "nothing_measured",
        NoProposal::Unknown(_) => "unknown_shells",
        NoProposal::WrongFamily { .. } => "wrong_family",
        NoProposal::Select(_) => "not_enough_shells",
    };
    Problem::Unanswerable { code, detail: reason.to_string() }
}

/// What is best.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum Best {
    /// Nearest the aims.
    Closest,
    /// The least bought.
    Thriftiest,
}

/// Farthest that a target is moved to see what would happen, in gauge steps.
const FARTHEST: i16 = 60;
