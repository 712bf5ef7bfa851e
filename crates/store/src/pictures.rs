//! The pictures of builds, by their digests.
use diesel::prelude::*;
use diesel_async::RunQueryDsl;
use uuid::Uuid;

use crate::StoreError;
use crate::pool::{Connection, Store};
use crate::schema::pictures;

/// A picture by its digest.
pub type KeptPicture = (String, Vec<u8>);

#[derive(Queryable, Insertable)]
#[diesel(table_name = pictures)]
struct PictureRow {
    build_id: String,
    digest: String,
    jpeg: Vec<u8>,
}

/// Writes pictures of a build; one that is there already stays.
pub(crate) async fn write_pictures(
    conn: &mut Connection,
    build: Uuid,
    pictures: &[KeptPicture],
) -> Result<(), StoreError> {
    for (digest, jpeg) in pictures {
        let row = PictureRow { build_id: build.to_string(), digest: digest.clone(), jpeg: jpeg.clone() };
        diesel::insert_or_ignore_into(pictures::table).values(&row).execute(conn).await?;
    }
    Ok(())
}

impl Store {
    /// Keeps a picture of a build; one that is there already stays.
    ///
    /// # Errors
    /// [`StoreError`] when the database cannot be asked.
    pub async fn keep_picture(&self, build: Uuid, digest: &str, jpeg: Vec<u8>) -> Result<(), StoreError> {
        let row = PictureRow { build_id: build.to_string(), digest: digest.to_owned(), jpeg };
        let connection = &mut self.connection().await?;
        diesel::insert_or_ignore_into(pictures::table).values(&row).execute(connection).await?;
        Ok(())
    }

    /// A picture of a build.
    ///
    /// # Errors
    /// [`StoreError`] when the database cannot be asked.
    pub async fn picture(&self, build: Uuid, digest: &str) -> Result<Option<Vec<u8>>, StoreError> {
        let connection = &mut self.connection().await?;
        let of = pictures::build_id.eq(build.to_string()).and(pictures::digest.eq(digest));
        Ok(pictures::table.filter(of).select(pictures::jpeg).first(connection).await.optional()?)
    }
}
