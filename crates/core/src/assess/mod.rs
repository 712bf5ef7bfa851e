//! [`evaluate`]: from a build to everything that can be said about it now.

mod along;
mod assessment;
mod betrayed;
mod blind;
mod causes;
mod condemned;
mod evaluate;
mod exchanged;
mod forced;
mod gauge_status;
mod hypotheses;
mod orders;
mod patterns;
mod room;
mod row_values;
mod seen_by;
mod suspects;
mod suspicion;
mod tested;
mod tunnel;
mod wanted;

pub use along::{Around, TypedAt, along, around};
pub use assessment::{Assessment, Row, RowTrend};
pub use blind::{BlindComparison, BlindTouch};
pub use causes::{NextCheck, WeighedCause};
pub use condemned::Unfit;
pub use evaluate::evaluate;
pub use forced::{Forced, ForcedBy};
pub use gauge_status::{GaugeStatus, gauge_statuses};
pub use hypotheses::{Confirm, Hypothesis};
pub use orders::{OrderItemStatus, OrderStatus};
pub use room::Along;
pub use seen_by::evaluate_as_seen;
pub use suspicion::{Cause, Suspicion};
pub use tested::{CheckSays, Tested};
pub use wanted::{Wanted, still_wanted};
