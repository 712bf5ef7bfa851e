//! Somebody who works in the besieged shop.
use std::time::Duration;

use reqwest::Client;
use serde_json::{Value, json};
use uuid::Uuid;

use crate::Step;

/// How long one waits for an answer.
const PATIENCE: Duration = Duration::from_secs(60);

/// Somebody at a bench.
#[derive(Clone)]
pub(crate) struct Hand {
    client: Client,
    base: String,
    token: String,
}

impl Hand {
    /// Signs in as one of the demo's people.
    pub async fn sign_in(base: &str, login: &str) -> Step<Self> {
        let client = Client::builder().cookie_store(true).timeout(PATIENCE).build()?;
        let known = jagged_pin_demo::people();
        let person = known.iter().find(|p| p.login == login).ok_or("the demo has no such person")?;
        let body = json!({ "login": person.login, "password": person.password });
        let answer = client.post(format!("{base}/api/v1/session")).json(&body).send().await?.error_for_status()?;
        let session: Value = answer.json().await?;
        let token = session["token"].as_str().ok_or("a token")?.to_owned();
        Ok(Hand { client, base: base.to_owned(), token })
    }

    /// Records a reading; whether it was acknowledged.
    pub async fn touch(&self, id: Uuid) -> bool {
        let reading = json!({
            "id": id, "station": "M1", "characteristic": "main_journal", "position": { "axial": "front", "angle": 0 },
            "read": "size", "gauge": "mic-tenths", "text": "2.6238", "unit": "in",
        });
        let request = self.client.post(format!("{}/api/v1/builds/SL-046/readings", self.base)).json(&reading);
        let sent = request.header("x-csrf-token", &self.token).send().await;
        sent.is_ok_and(|answer| answer.status().is_success())
    }

    /// Identifiers of what was read in the build that [`Hand::touch`] records in.
    pub async fn readings(&self) -> Step<Vec<String>> {
        let answer = self.client.get(format!("{}/api/v1/builds/SL-046", self.base)).send().await?.error_for_status()?;
        let build: Value = answer.json().await?;
        let all = build["readings"].as_array().ok_or("readings")?;
        Ok(all.iter().filter_map(|r| r["id"].as_str().map(str::to_owned)).collect())
    }

    /// Sends something and says how it was answered; 0 where it was not.
    pub async fn post(&self, path: &str, kind: &str, body: Vec<u8>) -> u16 {
        let request = self.client.post(format!("{}/api/v1{path}", self.base)).header("content-type", kind).body(body);
        let sent = request.header("x-csrf-token", &self.token).send().await;
        sent.map(|answer| answer.status().as_u16()).unwrap_or_default()
    }

    /// Sends JSON and reads the answer.
    pub async fn ask(&self, path: &str, body: &Value) -> Step<Value> {
        let request = self.client.post(format!("{}/api/v1{path}", self.base)).json(body);
        let answer = request.header("x-csrf-token", &self.token).send().await?.error_for_status()?;
        Ok(answer.json().await?)
    }

    /// Reads something; nothing where there is none.
    pub async fn get(&self, path: &str) -> Step<Option<Value>> {
        let answer = self.client.get(format!("{}/api/v1{path}", self.base)).send().await?;
        if answer.status().as_u16() == 404 { Ok(None) } else { Ok(Some(answer.error_for_status()?.json().await?)) }
    }

    /// Opens a stream and holds it as long as the answer is held; whether it was let in.
    pub async fn hold(&self, path: &str) -> (bool, Option<reqwest::Response>) {
        let answer = self.client.get(format!("{}/api/v1{path}", self.base)).send().await.ok();
        (answer.as_ref().is_some_and(|a| a.status().is_success()), answer)
    }
}
