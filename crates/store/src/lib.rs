//! The facts of Jagged Pin, kept in MariaDB. The only place that knows SQL.
//!
//! A [`Store`] is a pool of connections. [`Store::build`] loads a build whole, as a core value;
//! [`Store::record`] adds one fact to it: under the build's row lock it loads what is there, lets the
//! caller decide on that, writes the fact with its details and the build's new sequence number in one
//! transaction, and returns the build as it is then. People, sessions and failed sign-ins have their own
//! modules.
//!
//! Facts are append-only and numbered per build, so a build once loaded stays valid up to its number:
//! the store keeps loaded builds and fetches only what came since. Any number of servers can share one
//! database.

mod address;
mod builds;
mod error;
mod facts;
mod floor;
mod ledger;
mod people;
mod pictures;
mod pool;
mod schema;
mod sessions;
mod shells;
mod shop;
mod shop_log;
mod sign_in;
mod tables;
mod text;

pub use builds::{Opened, Recorded, Sent};
pub use error::{RecordError, StoreError};
pub use floor::{FloorQuery, OnFloor};
pub use people::{Account, Member, NewAccount, PeopleOutcome, Role};
pub use pictures::KeptPicture;
pub use pool::Store;
pub use sessions::{OpenSession, SessionRow};
pub use shells::{KnownBox, KnownFamily, MoveOutcome, Moved, ShelfMove};
pub use shop::{EnginePattern, ShopGauge};
pub use shop_log::{PERSON_CHANGED, ShopLine, ShopNote};
pub use sign_in::Failures;
pub use tables::Turn;
