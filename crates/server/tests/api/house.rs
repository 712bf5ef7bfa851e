//! A shop to test in: a server with its own database, and people who are signed in.

use std::path::PathBuf;

use jagged_pin_core::sheet::SealKey;
use jagged_pin_core::units::Timestamp;
use jagged_pin_demo as demo;
use jagged_pin_mariadb::testing::TestDatabase;
use jagged_pin_server::ledger::{self, TakeOver};
use jagged_pin_server::{AppState, seed, serve};
use jagged_pin_store::{FloorQuery, Store};
use reqwest::{Client, Method, Response};
use serde_json::{Value, json};
use tokio::net::TcpListener;
use tokio::sync::{OnceCell, oneshot, watch};
use uuid::Uuid;

pub type Outcome<T = ()> = Result<T, Box<dyn std::error::Error + Send + Sync>>;

/// A running server. Dropping it stops it.
pub struct House {
    pub base: String,
    evaluations: Box<dyn Fn() -> u64 + Send + Sync>,
    _stop: oneshot::Sender<()>,
    _stopping: watch::Sender<bool>,
    database: TestDatabase,
}

/// What a test begins with: made once in a process, and copied for each test.
#[derive(Clone, Copy)]
enum Template {
    /// The shop, with nothing on its floor.
    Shop,
    /// The whole demo.
    Demo,
}

impl Template {
    async fn database(self) -> Outcome<TestDatabase> {
        static SHOP: OnceCell<String> = OnceCell::const_new();
        static DEMO: OnceCell<String> = OnceCell::const_new();
        let made = match self {
            Template::Shop => &SHOP,
            Template::Demo => &DEMO,
        };
        let make = async || -> Outcome<String> {
            let first = TestDatabase::new()?;
            let store = begun(Store::connect(&first.url()).await?).await?;
            match self {
                Template::Shop => seed::shop(&store).await?,
                Template::Demo => drop(seed::demo(&store).await?),
            }
            Ok(first.dump()?)
        };
        Ok(TestDatabase::filled(made.get_or_try_init(make).await?)?)
    }
}

/// The key of the test shop: from before its first build.
pub fn key() -> SealKey {
    SealKey::new([3; 32], Timestamp(0))
}

/// The store with the key of the test shop and its ledger begun.
async fn begun(store: Store) -> Outcome<Store> {
    let store = store.with_key(key());
    ledger::begin(&store, &key(), TakeOver::WhatThereIs).await?;
    Ok(store)
}

impl House {
    /// A shop with its people, its gauges and its patterns, and nothing on the floor.
    pub async fn empty() -> Outcome<Self> {
        let database = Template::Shop.database().await?;
        let store = Store::connect(&database.url()).await?;
        Self::over(store, database).await
    }

    /// A database that has nobody yet.
    pub async fn unopened() -> Outcome<Self> {
        let database = TestDatabase::new()?;
        let store = Store::connect(&database.url()).await?;
        Self::over(store, database).await
    }

    /// A store of one's own over its database.
    pub async fn store(&self) -> Outcome<Store> {
        Ok(Store::connect(&self.database.url()).await?)
    }

    /// The whole demo shop.
    pub async fn demo() -> Outcome<Self> {
        let database = Template::Demo.database().await?;
        let store = Store::connect(&database.url()).await?;
        Self::over(store, database).await
    }

    /// The whole demo shop, with gauges plugged in at `hub`.
    pub async fn demo_with_gauges(hub: &str) -> Outcome<Self> {
        let database = Template::Demo.database().await?;
        let store = Store::connect(&database.url()).await?;
        Self::over_hub(store, database, Some(hub)).await
    }

    /// The shop with one build of mains only, which a few decisions bring to its signatures.
    pub async fn with_mains_only() -> Outcome<Self> {
        let database = Template::Shop.database().await?;
        let store = Store::connect(&database.url()).await?;
        store.open_build(&demo::mains_only()?).await?;
        Self::over(store, database).await
    }

    async fn over(store: Store, database: TestDatabase) -> Outcome<Self> {
        Self::over_hub(store, database, None).await
    }

    async fn over_hub(store: Store, database: TestDatabase, hub: Option<&str>) -> Outcome<Self> {
        let listener = TcpListener::bind("127.0.0.1:0").await?;
        let base = format!("http://{}", listener.local_addr()?);
        let (stopping, stopped) = watch::channel(false);
        let store = begun(store).await?;
        let mut state = AppState::new(store, PathBuf::from("nowhere"), "Test shop", stopped).with_key(key());
        if let Some(hub) = hub {
            state.gauge_hub = hub.into();
        }
        let evaluated = std::sync::Arc::clone(&state.evaluated);
        let evaluations = Box::new(move || evaluated.evaluations());
        let (stop, asked) = oneshot::channel::<()>();
        tokio::spawn(serve(listener, state, async move { drop(asked.await) }));
        Ok(House { base, evaluations, _stop: stop, _stopping: stopping, database })
    }

    /// Changes rows behind the server's back.
    pub fn tamper(&self, statements: &str) -> Outcome {
        Ok(self.database.run(statements)?)
    }

    /// What the database answers.
    pub fn ask(&self, query: &str) -> Outcome<String> {
        Ok(self.database.query(query)?.trim().to_owned())
    }

    /// Where it listens.
    pub fn base(&self) -> &str {
        &self.base
    }

    /// How many builds this server has evaluated so far.
    pub fn evaluations(&self) -> u64 {
        (self.evaluations)()
    }

    /// How many builds have a summary for the floor that is not behind.
    pub async fn kept_summaries(&self) -> Outcome<usize> {
        let ask = FloorQuery { most: 100, ..FloorQuery::default() };
        let rows = Store::connect(&self.database.url()).await?.floor(&ask).await?;
        Ok(rows.iter().filter(|row| row.summary.is_some()).count())
    }

    /// A second server over the same database.
    pub async fn beside(self) -> Outcome<(Self, String)> {
        let store = Store::connect(&self.database.url()).await?;
        let listener = TcpListener::bind("127.0.0.1:0").await?;
        let base = format!("http://{}", listener.local_addr()?);
        // Runs until the test's runtime ends.
        let state = AppState::new(store, PathBuf::from("nowhere"), "Test shop", self._stopping.subscribe());
        let state = state.with_key(key());
        tokio::spawn(serve(listener, state, std::future::pending()));
        Ok((self, base))
    }

    /// Somebody who has not signed in.
    pub fn stranger(&self) -> Outcome<Person> {
        Person::at(&self.base)
    }

    /// Somebody who has signed in with their demo password.
    pub async fn person(&self, login: &str) -> Outcome<Person> {
        let mut person = self.stranger()?;
        person.sign_in(login).await?;
        Ok(person)
    }
}

/// An answer: its status and its body.
#[derive(Debug)]
pub struct Answer {
    pub status: u16,
    pub body: Value,
}

impl Answer {
    /// Code and field of a problem.
    pub fn problem(&self) -> (u16, &str, &str) {
        let text = |name: &str| self.body[name].as_str().unwrap_or_default();
        (self.status, text("code"), text("field"))
    }
}

/// A browser's worth of a person: cookies, and the token of the session.
pub struct Person {
    client: Client,
    base: String,
    token: String,
}

pub fn password(login: &str) -> &'static str {
    demo::people().iter().find(|p| p.login == login).map_or("", |p| p.password)
}

impl Person {
    pub fn at(base: &str) -> Outcome<Self> {
        let client = Client::builder().cookie_store(true).build()?;
        Ok(Person { client, base: base.to_owned(), token: String::new() })
    }

    pub async fn sign_in(&mut self, login: &str) -> Outcome {
        let answer = self.post("/session", json!({ "login": login, "password": password(login) })).await?;
        assert_eq!(answer.status, 200, "{answer:?}");
        self.token = answer.body["token"].as_str().unwrap_or_default().to_owned();
        Ok(())
    }

    pub async fn raw(&self, method: Method, path: &str, body: Option<(&str, String)>) -> Outcome<Response> {
        let mut request = self.client.request(method, format!("{}/api/v1{path}", self.base));
        if !self.token.is_empty() {
            request = request.header("x-csrf-token", &self.token);
        }
        if let Some((kind, text)) = body {
            request = request.header("content-type", kind).body(text);
        }
        Ok(request.send().await?)
    }

    /// An answer as it comes when the asker unpacks it himself.
    pub async fn packed(&self, path: &str) -> Outcome<Response> {
        let request = self.client.get(format!("{}/api/v1{path}", self.base));
        Ok(request.header("accept-encoding", "gzip").send().await?)
    }

    /// Sends what another person, or the same, had typed.
    pub async fn post_as(&self, login: &str, path: &str, body: &Value) -> Outcome<Answer> {
        let request = self.client.post(format!("{}/api/v1{path}", self.base)).json(body);
        Self::answer(request.header("x-csrf-token", &self.token).header("x-person", login).send().await?).await
    }

    async fn answer(response: Response) -> Outcome<Answer> {
        let status = response.status().as_u16();
        let text = response.text().await?;
        Ok(Answer { status, body: serde_json::from_str(&text).unwrap_or(Value::String(text)) })
    }

    pub async fn get(&self, path: &str) -> Outcome<Answer> {
        Self::answer(self.raw(Method::GET, path, None).await?).await
    }

    pub async fn post(&self, path: &str, body: Value) -> Outcome<Answer> {
        let sent = self.raw(Method::POST, path, Some(("application/json", body.to_string()))).await?;
        let mut answer = Self::answer(sent).await?;
        // What was written is judged by the build as it stands then, as everybody sees it.
        if let Some(code) = answer.body["changes"]["code"].as_str() {
            answer.body["build"] = self.get(&format!("/builds/{code}")).await?.body;
        }
        Ok(answer)
    }

    pub async fn put(&self, path: &str, body: Value) -> Outcome<Answer> {
        Self::answer(self.raw(Method::PUT, path, Some(("application/json", body.to_string()))).await?).await
    }

    pub async fn post_text(&self, path: &str, kind: &str, text: &str) -> Outcome<Answer> {
        Self::answer(self.raw(Method::POST, path, Some((kind, text.to_owned()))).await?).await
    }

    /// Sends bytes as they are, such as a picture.
    pub async fn send_bytes(&self, path: &str, kind: &str, bytes: Vec<u8>) -> Outcome<Answer> {
        let request = self.client.post(format!("{}/api/v1{path}", self.base)).header("x-csrf-token", &self.token);
        Self::answer(request.header("content-type", kind).body(bytes).send().await?).await
    }

    /// What is no text.
    pub async fn get_bytes(&self, path: &str) -> Outcome<Vec<u8>> {
        Ok(self.raw(Method::GET, path, None).await?.error_for_status()?.bytes().await?.to_vec())
    }

    pub async fn delete(&self, path: &str) -> Outcome<Answer> {
        Self::answer(self.raw(Method::DELETE, path, None).await?).await
    }

    /// Carries the token of a session that began otherwise than by signing in.
    pub fn carry(&mut self, answer: &Answer) {
        self.token = answer.body["token"].as_str().unwrap_or_default().to_owned();
    }

    /// Forgets the token, as a page of another site would not know it.
    pub fn without_token(mut self) -> Self {
        self.token.clear();
        self
    }

    /// Keeps a reading.
    pub async fn touch(&self, build: &str, reading: Value) -> Outcome<Answer> {
        self.post(&format!("/builds/{build}/readings"), reading).await
    }
}

/// A reading of the front vertical position of a journal, to be changed where a test needs it.
pub fn journal(station: &str, text: &str) -> Value {
    json!({
        "id": Uuid::new_v4(), "station": station, "characteristic": "main_journal",
        "position": { "axial": "front", "angle": 0 }, "read": "size", "gauge": "mic-tenths", "text": text, "unit": "in",
    })
}

/// The same in a bore, on the dial.
pub fn bore(station: &str, axial: &str, text: &str) -> Value {
    json!({
        "id": Uuid::new_v4(), "station": station, "characteristic": "main_bearing",
        "position": { "axial": axial, "angle": 0 }, "read": "dial", "reference": "2.6240", "gauge": "bore-tenths",
        "text": text, "unit": "in",
    })
}

/// `value` with one field changed.
pub fn with(mut value: Value, field: &str, to: impl Into<Value>) -> Value {
    value[field] = to.into();
    value
}

/// The assessed bearing of an answer that carries a build.
pub fn station<'a>(build: &'a Value, name: &str) -> &'a Value {
    let all = build["assessment"]["figures"].as_array();
    all.and_then(|s| s.iter().find(|s| s["station"] == name)).unwrap_or(&Value::Null)
}

/// A judged figure as its places were read, without what the worst of several reads too far out.
pub fn as_read(judged: &Value) -> Option<i64> {
    Some(judged["clearance"].as_i64()? - judged["correction"].as_i64().unwrap_or(0))
}

/// One of the sizes a figure is made of.
pub fn size<'a>(figure: &'a Value, role: &str, read: &str) -> &'a Value {
    let all = figure["measured"].as_array();
    all.and_then(|m| m.iter().find(|m| m["role"] == role && m["read"] == read)).unwrap_or(&Value::Null)
}
