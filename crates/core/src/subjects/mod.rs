//! What a practised eye would remark on: rules of one subject that no table can state.

mod faces;
mod findings;
mod gates;
mod rings;

pub(crate) use findings::{Remarks, findings};
pub(crate) use gates::shut_gates;
