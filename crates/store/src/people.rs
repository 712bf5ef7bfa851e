//! People, their roles and their password hashes.
use std::collections::BTreeMap;

use diesel::prelude::*;
use diesel_async::{AsyncConnection, RunQueryDsl};
use jagged_pin_core::record::Capabilities;
use jagged_pin_core::units::{Person, Timestamp};

use crate::pool::{Connection, Lost, Store, while_busy};
use crate::schema::{people, roles};
use crate::shop_log::{ShopNote, note_in_log};
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

/// Somebody of the shop, as whoever runs it sees them.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Member {
    /// Who it is.
    pub person: Person,
    /// The name they sign in with.
    pub login: String,
    /// Name of the role.
    pub role: String,
    /// Whether they may not sign in any more.
    pub disabled: bool,
    /// Whether they have a password.
    pub has_password: bool,
    /// Counts the changes, from 1.
    pub version: u32,
}

/// What came of a change of the shop's people.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum PeopleOutcome {
    /// It was done.
    Done,
    /// Somebody else changed the same person meanwhile, or there is no such person.
    Changed,
    /// Somebody else signs in with that name.
    LoginTaken,
    /// Nobody would be left who runs the shop.
    NobodyLeft,
}

#[derive(Queryable, Selectable)]
#[diesel(table_name = people)]
struct PersonRow {
    id: String,
    name: String,
    login: Option<String>,
    password_hash: Option<String>,
}

type MemberColumns = (String, String, Option<String>, Option<String>, Option<String>, bool, i32);

fn member((id, name, login, hash, role, disabled, version): MemberColumns) -> Result<Option<Member>, StoreError> {
    let (Some(login), Some(role)) = (login, role) else { return Ok(None) };
    let person = Person { id: text::uuid(&id)?, name };
    let version = version.try_into().map_err(text::unreadable)?;
    Ok(Some(Member { person, login, role, disabled, has_password: hash.is_some(), version }))
}

/// How many people who can sign in run the shop.
async fn who_run_it(conn: &mut Connection) -> Result<i64, StoreError> {
    let enabled = people::table
        .inner_join(roles::table.on(people::role.eq(roles::name.nullable())))
        .filter(people::disabled.eq(false))
        .filter(people::password_hash.is_not_null())
        .filter(roles::run_shop.eq(true));
    Ok(enabled.count().get_result(conn).await?)
}

/// Makes whoever changes who runs the shop wait for whoever does so already.
async fn one_after_the_other(conn: &mut Connection) -> Result<(), StoreError> {
    let _: Vec<String> = roles::table.select(roles::name).for_update().load(conn).await?;
    Ok(())
}

/// Notes a change of people or roles, or undoes it where nobody would be left who runs the shop.
async fn note_if_somebody_is_left(conn: &mut Connection, note: &ShopNote) -> Result<(), PeopleError> {
    if who_run_it(conn).await? == 0 {
        return Err(Undone(PeopleOutcome::NobodyLeft));
    }
    Ok(note_in_log(conn, note).await?)
}

/// What became of a change that may be undone.
fn outcome(done: Result<(), PeopleError>) -> Result<PeopleOutcome, StoreError> {
    match done {
        Ok(()) => Ok(PeopleOutcome::Done),
        Err(Undone(why)) => Ok(why),
        Err(PeopleError::Store(error)) => Err(error),
    }
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

    /// Changes what a role allows, if it is still as it was seen. Somebody who runs the shop is left.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_role(&self, role: &Role, note: &ShopNote) -> Result<PeopleOutcome, StoreError> {
        let mut conn = self.connection().await?;
        let seen = text::version_column(role.version);
        let done = while_busy!({
            let (role, note) = (role.clone(), note.clone());
            conn.transaction(async move |conn| {
                // Two who take it from each other's roles go one after the other.
                one_after_the_other(conn).await?;
                let c = &role.capabilities;
                let as_seen = roles::table.find(&role.name).filter(roles::version.eq(seen));
                let set = (
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
                );
                if diesel::update(as_seen).set(set).execute(conn).await.map_err(StoreError::from)? != 1 {
                    return Err(Undone(PeopleOutcome::Changed));
                }
                note_if_somebody_is_left(conn, &note).await
            })
            .await
        });
        outcome(done)
    }

    /// The account that signs in as `login`.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn account_by_login(&self, login: &str) -> Result<Option<Account>, StoreError> {
        let found: Option<(PersonRow, RoleRow)> = people::table
            .inner_join(roles::table.on(people::role.eq(roles::name.nullable())))
            .filter(people::login.eq(login))
            .filter(people::disabled.eq(false))
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
            .filter(people::disabled.eq(false))
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
            .filter(people::disabled.eq(false))
            .order(people::name)
            .select((PersonRow::as_select(), RoleRow::as_select()))
            .load(&mut self.connection().await?)
            .await?;
        rows.into_iter().filter_map(|row| account(row).transpose()).collect()
    }

    /// Makes an account at that moment; the same person twice is made once.
    ///
    /// # Errors
    /// [`StoreError`] when the role is unknown, the login is taken, or the database fails.
    pub async fn make_account(&self, account: &NewAccount, at: Timestamp) -> Result<(), StoreError> {
        let id = account.person.id.to_string();
        let row = (
            people::id.eq(&id),
            people::name.eq(&account.person.name),
            people::login.eq(&account.login),
            people::password_hash.eq(&account.password_hash),
            people::role.eq(&account.role),
        );
        let mut conn = self.connection().await?;
        while_busy!({
            let (store, person) = (self.clone(), account.person.clone());
            conn.transaction(async move |conn| {
                match diesel::insert_into(people::table).values(row).execute(conn).await {
                    Err(e) if StoreError::is_duplicate(&e) => {
                        let known = people::table.find(person.id.to_string()).count().get_result::<i64>(conn).await?;
                        if known == 1 { Ok(()) } else { Err(StoreError::IdReused) }
                    }
                    other => {
                        other?;
                        store.write_name(conn, &person, at).await
                    }
                }
            })
            .await
        })
    }

    /// Whether anybody can sign in.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn somebody_can_sign_in(&self) -> Result<bool, StoreError> {
        let can = people::table.filter(people::disabled.eq(false)).filter(people::password_hash.is_not_null());
        Ok(can.count().get_result::<i64>(&mut self.connection().await?).await? > 0)
    }

    /// Everybody who has or had an account, in order of names.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn members(&self) -> Result<Vec<Member>, StoreError> {
        let rows: Vec<MemberColumns> = people::table
            .filter(people::login.is_not_null())
            .order(people::name)
            .load(&mut self.connection().await?)
            .await?;
        rows.into_iter().filter_map(|row| member(row).transpose()).collect()
    }

    /// Adds somebody, without a password yet. Somebody who is only known from a file gets no account by it.
    ///
    /// # Errors
    /// [`StoreError`] when the role is unknown, or the database fails.
    pub async fn add_member(&self, new: &Member, note: &ShopNote) -> Result<PeopleOutcome, StoreError> {
        let mut conn = self.connection().await?;
        while_busy!({
            let (store, new, note) = (self.clone(), new.clone(), note.clone());
            conn.transaction(async move |conn| {
                let id = new.person.id.to_string();
                let known: Option<Option<String>> =
                    people::table.find(&id).select(people::login).for_update().first(conn).await.optional()?;
                if let Some(known) = known {
                    let again = known.as_ref() == Some(&new.login);
                    return Ok(if again { PeopleOutcome::Done } else { PeopleOutcome::Changed });
                }
                let row = (
                    people::id.eq(&id),
                    people::name.eq(&new.person.name),
                    people::login.eq(&new.login),
                    people::role.eq(&new.role),
                );
                match diesel::insert_into(people::table).values(row).execute(conn).await {
                    Err(e) if StoreError::is_duplicate(&e) => Ok(PeopleOutcome::LoginTaken),
                    Err(e) => Err(e.into()),
                    Ok(_) => {
                        store.write_name(conn, &new.person, note.at).await?;
                        note_in_log(conn, &note).await.map(|()| PeopleOutcome::Done)
                    }
                }
            })
            .await
        })
    }

    /// Changes somebody's name, login or role, or shuts them out; as seen in `now.version`. Somebody who runs the shop is
    /// left.
    ///
    /// # Errors
    /// [`StoreError`] when the role is unknown, or the database fails.
    pub async fn put_member(&self, now: &Member, note: &ShopNote) -> Result<PeopleOutcome, StoreError> {
        let mut conn = self.connection().await?;
        let seen = text::version_column(now.version);
        let done = while_busy!({
            let (store, now, note) = (self.clone(), now.clone(), note.clone());
            conn.transaction(async move |conn| {
                // Two who shut each other out go one after the other.
                one_after_the_other(conn).await?;
                let as_seen = people::table.find(now.person.id.to_string()).filter(people::version.eq(seen));
                let set = (
                    people::name.eq(&now.person.name),
                    people::login.eq(&now.login),
                    people::role.eq(&now.role),
                    people::disabled.eq(now.disabled),
                    people::version.eq(seen.saturating_add(1)),
                );
                match diesel::update(as_seen).set(set).execute(conn).await {
                    Err(e) if StoreError::is_duplicate(&e) => return Err(Undone(PeopleOutcome::LoginTaken)),
                    Err(e) => return Err(StoreError::from(e).into()),
                    Ok(1) => {}
                    Ok(_) => return Err(Undone(PeopleOutcome::Changed)),
                }
                store.write_name(conn, &now.person, note.at).await?;
                note_if_somebody_is_left(conn, &note).await
            })
            .await
        });
        outcome(done)
    }

    /// Gives somebody a password.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_password(&self, person: uuid::Uuid, hash: &str, note: &ShopNote) -> Result<(), StoreError> {
        let mut conn = self.connection().await?;
        while_busy!({
            let (hash, note) = (hash.to_owned(), note.clone());
            conn.transaction(async move |conn| {
                diesel::update(people::table.find(person.to_string()))
                    .set(people::password_hash.eq(hash))
                    .execute(conn)
                    .await?;
                note_in_log(conn, &note).await
            })
            .await
        })
    }

    /// The names that some of the shop's people have, by their identifiers.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn members_named(&self, ids: &[uuid::Uuid]) -> Result<Vec<Person>, StoreError> {
        let rows: Vec<(String, String)> = people::table
            .filter(people::login.is_not_null())
            .filter(people::id.eq_any(ids.iter().map(ToString::to_string)))
            .select((people::id, people::name))
            .load(&mut self.connection().await?)
            .await?;
        rows.into_iter().map(|(id, name)| Ok(Person { id: text::uuid(&id)?, name })).collect()
    }
}

/// Why a change of people was undone.
enum PeopleError {
    Undone(PeopleOutcome),
    Store(StoreError),
}
use PeopleError::Undone;

impl From<StoreError> for PeopleError {
    fn from(error: StoreError) -> Self {
        PeopleError::Store(error)
    }
}

impl From<diesel::result::Error> for PeopleError {
    fn from(error: diesel::result::Error) -> Self {
        PeopleError::Store(error.into())
    }
}

impl Lost for PeopleError {
    fn lost(&self) -> bool {
        matches!(self, PeopleError::Store(error) if error.lost())
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
