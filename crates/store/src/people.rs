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
    correct_shelf: bool,
    strike_others: bool,
    run_shop: bool,
    version: i32,
}

/// A role of the shop and what it allows.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Role {
    /// Its name.
    pub name: String,
    /// What it allows.
    pub capabilities: Capabilities,
    /// Counts its changes, from 1.
    pub version: u32,
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
            correct_shelf: self.correct_shelf,
            strike_others: self.strike_others,
            run_shop: self.run_shop,
        }
    }
}

fn account((p, r): (PersonRow, RoleRow)) -> Result<Option<Account>, StoreError> {
    let (Some(login), Some(password_hash)) = (p.login, p.password_hash) else { return Ok(None) };
    let person = Person { id: text::uuid(&p.id)?, name: p.name };
    Ok(Some(Account { person, login, password_hash, capabilities: r.capabilities(), role: r.name }))
}

impl Store {
    /// The roles of the shop, the one that may most last.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn roles(&self) -> Result<Vec<Role>, StoreError> {
        let rows: Vec<RoleRow> = roles::table
            .order((roles::run_shop, roles::sign_checker, roles::sign_assembler, roles::name))
            .select(RoleRow::as_select())
            .load(&mut self.connection().await?)
            .await?;
        let role = |r: RoleRow| {
            let (capabilities, version) = (r.capabilities(), r.version.try_into().map_err(text::unreadable)?);
            Ok(Role { name: r.name, capabilities, version })
        };
        rows.into_iter().map(role).collect()
    }

    /// Changes what a role allows, if it is still as it was seen; says whether it was. Somebody is left who runs the shop.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_role(&self, role: &Role) -> Result<bool, StoreError> {
        let c = &role.capabilities;
        let seen = i32::try_from(role.version).map_err(text::unreadable)?;
        let changed = diesel::update(roles::table.find(&role.name).filter(roles::version.eq(seen)))
            .set((
                roles::open_builds.eq(c.open_builds),
                roles::measure.eq(c.measure),
                roles::set_targets.eq(c.set_targets),
                roles::concede.eq(c.concede),
                roles::concede_tight.eq(c.concede_tight),
                roles::sign_assembler.eq(c.sign_assembler),
                roles::sign_checker.eq(c.sign_checker),
                roles::correct_shelf.eq(c.correct_shelf),
                roles::strike_others.eq(c.strike_others),
                roles::run_shop.eq(c.run_shop),
                roles::version.eq(seen.saturating_add(1)),
            ))
            .execute(&mut self.connection().await?)
            .await?;
        Ok(changed == 1)
    }

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
