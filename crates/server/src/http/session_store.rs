//! Sessions of `tower-sessions`, kept in the database.
//!
//! A row has a digest of the identifier and never the identifier itself: whoever reads the database, or a dump of it, cannot
//! make a cookie of a row.
use std::collections::HashMap;

use jagged_pin_store::{SessionRow, Store};
use time::OffsetDateTime;
use tower_sessions::SessionStore;
use tower_sessions::session::{Id, Record};
use tower_sessions::session_store::{Error, Result};

use crate::clock;
use crate::secrets::digest;
use crate::state::latest_end;

/// The database as a session store.
#[derive(Clone, Debug)]
pub(crate) struct DatabaseSessions(pub(crate) Store);

/// What a session's row has of its identifier: the first half of a digest.
pub(crate) fn key(id: &Id) -> String {
    let mut whole = digest(id.0.to_be_bytes());
    whole.truncate(32);
    whole
}

fn row(record: &Record) -> Result<SessionRow> {
    let data = serde_json::to_string(&record.data).map_err(|e| Error::Encode(e.to_string()))?;
    let expires_at = record.expiry_date.unix_timestamp().saturating_mul(1_000);
    Ok(SessionRow { id: key(&record.id), data, expires_at })
}

fn backend(error: impl std::fmt::Display) -> Error {
    Error::Backend(error.to_string())
}

#[async_trait::async_trait]
impl SessionStore for DatabaseSessions {
    async fn create(&self, record: &mut Record) -> Result<()> {
        while !self.0.create_session(&row(record)?).await.map_err(backend)? {
            record.id = Id::default();
        }
        let now = clock::now().0;
        self.0.clear_sessions(now, latest_end(now)).await.map_err(backend)
    }

    async fn save(&self, record: &Record) -> Result<()> {
        self.0.save_session(&row(record)?, clock::now().0).await.map_err(backend)
    }

    async fn load(&self, id: &Id) -> Result<Option<Record>> {
        let now = clock::now().0;
        let Some(found) = self.0.session(&key(id), now, latest_end(now)).await.map_err(backend)? else {
            return Ok(None);
        };
        let data: HashMap<_, _> = serde_json::from_str(&found.data).map_err(|e| Error::Decode(e.to_string()))?;
        let expiry_date = OffsetDateTime::from_unix_timestamp(found.expires_at / 1_000).map_err(backend)?;
        Ok(Some(Record { id: *id, data, expiry_date }))
    }

    async fn delete(&self, id: &Id) -> Result<()> {
        self.0.delete_session(&key(id)).await.map_err(backend)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn no_row_has_what_a_cookie_is_made_of() {
        let id = Id(0x0123_4567_89ab_cdef);
        assert_eq!(key(&id).len(), 32);
        assert_eq!(key(&id), key(&Id(0x0123_4567_89ab_cdef)), "found again by its cookie");
        assert!(!key(&id).contains("0123456789abcdef"));
    }
}
