//! Remarks that nobody signs past: which of a figure's findings the rules of its build block by, and what the lead accepted.
//!
//! A remark blocks where it is proven: what a gauge may only seem to see is said and blocks nothing. An acceptance holds for
//! the evidence it was given to and for as much of it as there was.
use crate::build::from_elsewhere;
use crate::engine::Role;
use crate::figure::{ConcessionInForce, Context, FigureAssessment, Finding, GateShut};
use crate::log::{Concession, Fact, Gate, What};
use crate::units::Length;

/// Methods that differ by so many times what both leave open are not merely unlucky: one in four hundred sound bearings.
const FAR_APART: f64 = 1.5;

/// The gates that are shut at a figure, each once, with the most there is of each.
pub(crate) fn shut_gates(context: &Context<'_>, f: &FigureAssessment) -> Vec<GateShut> {
    // What is not measured yet blocks by that.
    if context.rules.gates.is_empty() || f.judged.is_none() {
        return Vec::new();
    }
    let mut shut: Vec<GateShut> = Vec::new();
    for (gate, amount) in f.findings.iter().filter_map(|finding| gate_of(context, f, finding)) {
        if !context.rules.gates.contains(&gate) {
            continue;
        }
        match shut.iter_mut().find(|known| known.gate == gate) {
            Some(known) => known.amount = known.amount.max(amount),
            None => shut.push(GateShut { gate, amount, concession: None }),
        }
    }
    for gate in &mut shut {
        gate.concession = accepted(context, f, gate);
    }
    shut
}

/// The gate that a finding shuts, and how much of it there is.
fn gate_of(context: &Context<'_>, f: &FigureAssessment, finding: &Finding) -> Option<(Gate, Length)> {
    let doubt = |role: Role| {
        let part = f.measured.iter().find(|m| m.role == role && m.size.size.is_some());
        part.map_or(Length::ZERO, |m| context.doubt_of(&m.size, role))
    };
    Some(match finding {
        Finding::Shape { value, likely: false, .. } => (Gate::Shape, *value),
        Finding::HousingOff { by } if by.abs() > doubt(Role::HOUSING) => (Gate::Housing, by.abs()),
        Finding::Rough { roughness, .. } => (Gate::Surface, *roughness),
        Finding::MethodsDisagree { of, with, difference } => {
            let pair = f.agreements.iter().find(|a| (a.of, a.with) == (*of, *with));
            let far = pair.and_then(|a| a.en).is_none_or(|en| en > FAR_APART);
            return far.then(|| (Gate::Methods, difference.abs()));
        }
        Finding::NotOfFamily => (Gate::Family, Length::ZERO),
        Finding::NoSetUp => (Gate::SetUp, Length::ZERO),
        Finding::Unproven { .. } | Finding::PastDue { .. } => (Gate::Gauge, Length::ZERO),
        Finding::BelowFloor { .. } => (Gate::EndPlay, f.judged.as_ref()?.smallest),
        Finding::BeyondOnGrid { zone, .. } => (Gate::Grid, *zone),
        _ => return None,
    })
}

/// The acceptance of a remark: of as much as there is, and of this evidence.
fn accepted(context: &Context<'_>, f: &FigureAssessment, shut: &GateShut) -> Option<ConcessionInForce> {
    let of_this = |c: &Concession| {
        let here = c.station == f.station || (shut.gate.is_of_row() && c.station.row() == f.row);
        c.gate == Some(shut.gate) && c.of() == f.figure && here
    };
    let last = |fact: &&Fact| matches!(&fact.what, What::Concession(c) if of_this(c));
    let fact = context.notes.iter().rev().copied().find(last)?;
    let What::Concession(c) = &fact.what else { return None };
    let shown = Length::from_nm(context.build.unit.dial_step().nm() / 2);
    let as_much = (shut.amount - c.clearance).abs() < shown;
    let ended = context.endings.next_at(c.of(), c.station, fact.seq).is_some();
    (as_much && !ended).then(|| ConcessionInForce {
        reason: c.reason.clone(),
        by: fact.by.clone(),
        at: fact.at,
        elsewhere: from_elsewhere(context.notes, fact.seq),
    })
}
