//! People, their roles and their password hashes.
use std::collections::BTreeMap;

use diesel::prelude::*;
use diesel_async::RunQueryDsl;
use jagged_pin_core::record::Capabilities;
use jagged_pin_core::units::Person;

use crate::pool::{Connection, Store};
use crate::schema::{people, roles};
use crate::{StoreError, text};

/// Somebody who can sign in.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Account {
    /// Who it is.
    pub person: Person,
    /// The name they sign in with.
    pub login: String,
    /// Argon2id hash of the password, in PHC form.
    pub password_hash: String,
    /// Name of the role.
    pub role: String,
    /// What the role allows.
    pub capabilities: Capabilities,
}

/// An account to be made.
#[derive(Debug, Clone)]
pub struct NewAccount {
    /// Who it is.
    pub person: Person,
    /// The name to sign in with.
    pub login: String,
    /// Argon2id hash of the password, in PHC form.
    pub password_hash: String,
    /// Name of the role, one of the shop's.
    pub role: String,
}

#[derive(Queryable, Selectable)]
#[diesel(table_name = people)]
struct PersonRow {
    id: String,
    name: String,
    login: Option<String>,
    password_hash: Option<String>,
}

#[derive(Queryable, Selectable)]
#[diesel(table_name = roles)]
struct RoleRow {
    name: String,
    open_builds: bool,
    measure: bool,
    set_targets: bool,
    concede: bool,
    concede_tight: bool,
    sign_assembler: bool,
    sign_checker: bool,
}

impl RoleRow {
    fn capabilities(&self) -> Capabilities {
        Capabilities {
            open_builds: self.open_builds,
            measure: self.measure,
            set_targets: self.set_targets,
            concede: self.concede,
            concede_tight: self.concede_tight,
            sign_assembler: self.sign_assembler,
            sign_checker: self.sign_checker,
        }
    }
}

fn account((p, r): (PersonRow, RoleRow)) -> Result<Option<Account>, StoreError> {
    let (Some(login), Some(password_hash)) = (p.login, p.password_hash) else { return Ok(None) };
    let person = Person { id: text::uuid(&p.id)?, name: p.name };
    Ok(Some(Account { person, login, password_hash, capabilities: r.capabilities(), role: r.name }))
}

impl Store {
    /// The account that signs in as `login`.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn account_by_login(&self, login: &str) -> Result<Option<Account>, StoreError> {
        let found: Option<(PersonRow, RoleRow)> = people::table
            .inner_join(roles::table.on(people::role.eq(roles::name.nullable())))
            .filter(people::login.eq(login))
            .select((PersonRow::as_select(), RoleRow::as_select()))
            .first(&mut self.connection().await?)
            .await
            .optional()?;
        found.map_or(Ok(None), account)
    }

    /// The account of the person with that identifier.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn account(&self, id: uuid::Uuid) -> Result<Option<Account>, StoreError> {
        let found: Option<(PersonRow, RoleRow)> = people::table
            .inner_join(roles::table.on(people::role.eq(roles::name.nullable())))
            .filter(people::id.eq(id.to_string()))
            .select((PersonRow::as_select(), RoleRow::as_select()))
            .first(&mut self.connection().await?)
            .await
            .optional()?;
        found.map_or(Ok(None), account)
    }

    /// Everybody who can sign in: name, login and role, in order of names.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn accounts(&self) -> Result<Vec<Account>, StoreError> {
        let rows: Vec<(PersonRow, RoleRow)> = people::table
            .inner_join(roles::table.on(people::role.eq(roles::name.nullable())))
            .order(people::name)
            .select((PersonRow::as_select(), RoleRow::as_select()))
            .load(&mut self.connection().await?)
            .await?;
        rows.into_iter().filter_map(|row| account(row).transpose()).collect()
    }

    /// Makes an account; the same person twice is made once.
    ///
    /// # Errors
    /// [`StoreError`] when the role is unknown, the login is taken, or the database fails.
    pub async fn make_account(&self, account: &NewAccount) -> Result<(), StoreError> {
        let id = account.person.id.to_string();
        let row = (
            people::id.eq(&id),
            people::name.eq(&account.person.name),
            people::login.eq(&account.login),
            people::password_hash.eq(&account.password_hash),
            people::role.eq(&account.role),
        );
        let mut conn = self.connection().await?;
        match diesel::insert_into(people::table).values(row).execute(&mut conn).await {
            Err(e) if StoreError::is_duplicate(&e) => {
                let known = people::table.filter(people::id.eq(&id)).count().get_result::<i64>(&mut conn).await?;
                if known == 1 { Ok(()) } else { Err(StoreError::IdReused) }
            }
            other => Ok(other.map(drop)?),
        }
    }
}

/// Notes people who appear in an imported build, without a login.
pub(crate) async fn note_people(conn: &mut Connection, met: impl Iterator<Item = &Person>) -> Result<(), StoreError> {
    // Each once and in one order: two imports that bring the same people along don't wait for each other in a ring.
    let met: BTreeMap<String, &str> = met.map(|p| (p.id.to_string(), p.name.as_str())).collect();
    let rows: Vec<_> = met.into_iter().map(|(id, name)| (people::id.eq(id), people::name.eq(name))).collect();
    diesel::insert_or_ignore_into(people::table).values(rows).execute(conn).await?;
    Ok(())
}
