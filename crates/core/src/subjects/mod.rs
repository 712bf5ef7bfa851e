//! What a practised eye would remark on: rules of one subject that no table can state.

mod findings;

pub(crate) use findings::{Remarks, findings};
