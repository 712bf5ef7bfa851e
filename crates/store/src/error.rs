//! What can go wrong between the store and its database.
use thiserror::Error;

/// Why the store could not do something.
#[derive(Debug, Error)]
pub enum StoreError {
    /// There is no such thing.
    #[error("not found")]
    NotFound,
    /// The identifier belongs to another fact or build.
    #[error("that id was used for something else")]
    IdReused,
    /// Another build has that short name.
    #[error("another build has that name")]
    CodeTaken,
    /// The build is there already.
    #[error("that build is there already")]
    BuildExists,
    /// Fewer halves on the shelf than were to be taken: nothing was done.
    #[error("only {left} of class {class} are left on the shelf")]
    NotOnShelf {
        /// The class.
        class: String,
        /// How many are left of it.
        left: u16,
    },
    /// The database holds something that the core cannot read.
    #[error("the database holds something unreadable: {0}")]
    Unreadable(String),
    /// Something that the database does not take: too long for its column, out of its range, or about something that is
    /// not there.
    #[error("the database does not take this: {0}")]
    Data(String),
    /// Others were writing the same rows; nothing was done.
    #[error("others were writing at the same time")]
    Busy,
    /// Somebody holds what is to be written, and does not let go.
    #[error("somebody else holds this build")]
    Held,
    /// Somebody else wrote between two attempts: what was decided may not hold any more.
    #[error("somebody else was quicker")]
    Overtaken,
    /// No connection to the database.
    #[error("no connection to the database: {0}")]
    Connection(String),
    /// The migrations could not be run.
    #[error("the tables could not be brought up to date: {0}")]
    Migration(String),
    /// The database refused or failed.
    #[error("the database: {0}")]
    Database(diesel::result::Error),
}

/// What the database says of data it does not take, where the driver has no name for the error: 1406, 1264, 4025, 1366.
const DATA: [&str; 4] = ["Data too long", "Out of range value", "CONSTRAINT", "Incorrect"];
/// What it says when a transaction lost against another one: 1213.
const LOST: &str = "try restarting transaction";
/// What it says when somebody held a row for longer than a write waits: 1205. That goes on; trying at once again helps nobody.
const HELD: &str = "Lock wait timeout";

impl From<diesel::result::Error> for StoreError {
    fn from(error: diesel::result::Error) -> Self {
        use diesel::result::DatabaseErrorKind::{CheckViolation, ForeignKeyViolation, NotNullViolation};
        let diesel::result::Error::DatabaseError(kind, info) = &error else { return StoreError::Database(error) };
        let message = info.message();
        if message.starts_with(HELD) {
            StoreError::Held
        } else if message.contains(LOST) {
            StoreError::Busy
        } else if matches!(kind, CheckViolation | ForeignKeyViolation | NotNullViolation)
            || DATA.iter().any(|said| message.starts_with(said))
        {
            StoreError::Data(message.to_owned())
        } else {
            StoreError::Database(error)
        }
    }
}

impl StoreError {
    /// Whether the database said that a unique key is taken.
    pub(crate) fn is_duplicate(error: &diesel::result::Error) -> bool {
        use diesel::result::{DatabaseErrorKind::UniqueViolation, Error::DatabaseError};
        matches!(error, DatabaseError(UniqueViolation, _))
    }
}

/// There is no connection, and why.
pub(crate) fn unconnected(error: impl std::fmt::Display) -> StoreError {
    StoreError::Connection(error.to_string())
}

/// Why a fact was not recorded: the store could not, or the caller decided against it.
#[derive(Debug, Error)]
pub enum RecordError<E> {
    /// The store could not.
    #[error(transparent)]
    Store(#[from] StoreError),
    /// The caller refused, on what the build was under the lock.
    #[error("refused")]
    Refused(E),
}

impl<E> From<diesel::result::Error> for RecordError<E> {
    fn from(error: diesel::result::Error) -> Self {
        RecordError::Store(error.into())
    }
}
