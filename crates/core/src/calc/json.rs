//! JSON in which a repeated key is an error instead of a silent overwrite.
use std::fmt;

use serde::de::{Deserialize, Deserializer, Error, MapAccess, SeqAccess, Visitor};
use serde_json::{Map, Number, Value};

use super::{CalcError, Code};

/// Marks the error of a repeated key among serde's messages.
const REPEATED: &str = "repeated key ";

/// A JSON value without repeated keys.
struct Strict(Value);

impl<'de> Deserialize<'de> for Strict {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        deserializer.deserialize_any(StrictVisitor).map(Strict)
    }
}

struct StrictVisitor;

impl<'de> Visitor<'de> for StrictVisitor {
    type Value = Value;

    fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("JSON")
    }

    fn visit_unit<E>(self) -> Result<Value, E> {
        Ok(Value::Null)
    }

    fn visit_bool<E>(self, v: bool) -> Result<Value, E> {
        Ok(Value::Bool(v))
    }

    fn visit_i64<E>(self, v: i64) -> Result<Value, E> {
        Ok(v.into())
    }

    fn visit_u64<E>(self, v: u64) -> Result<Value, E> {
        Ok(v.into())
    }

    fn visit_f64<E: Error>(self, v: f64) -> Result<Value, E> {
        Number::from_f64(v).map(Value::Number).ok_or_else(|| E::custom("a number that does not fit"))
    }

    fn visit_str<E>(self, v: &str) -> Result<Value, E> {
        Ok(v.into())
    }

    fn visit_seq<A: SeqAccess<'de>>(self, mut items: A) -> Result<Value, A::Error> {
        let mut list = Vec::new();
        while let Some(Strict(item)) = items.next_element()? {
            list.push(item);
        }
        Ok(Value::Array(list))
    }

    fn visit_map<A: MapAccess<'de>>(self, mut entries: A) -> Result<Value, A::Error> {
        let mut map = Map::new();
        while let Some(key) = entries.next_key::<String>()? {
            if map.contains_key(&key) {
                return Err(A::Error::custom(format!("{REPEATED}\"{key}\"")));
            }
            let Strict(value) = entries.next_value()?;
            map.insert(key, value);
        }
        Ok(Value::Object(map))
    }
}

/// Reads a request.
pub(super) fn parse(text: &str) -> Result<Value, CalcError> {
    serde_json::from_str::<Strict>(text).map(|Strict(value)| value).map_err(|e| {
        let message = e.to_string();
        let key = message.strip_prefix(REPEATED).and_then(|rest| rest.strip_prefix('"')?.split('"').next());
        match key {
            Some(key) => CalcError::new(Code::Duplicate, key, format!("the key \"{key}\" is there twice: keep one")),
            None => CalcError::new(Code::BadJson, "", format!("this is not JSON: {message}")),
        }
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_repeated_key_is_named_at_any_depth() {
        let error = |text| parse(text).err().map(|e| (e.code, e.path));
        assert_eq!(error(r#"{"a": 1, "a": 2}"#), Some((Code::Duplicate, "a".into())));
        assert_eq!(error(r#"{"a": [{"b": 1, "b": 1}]}"#), Some((Code::Duplicate, "b".into())));
        assert_eq!(error(r#"{"a": NaN}"#), Some((Code::BadJson, String::new())));
        assert_eq!(error(r#"{"a": 1e999}"#), Some((Code::BadJson, String::new())));
        assert_eq!(error(&"[".repeat(100_000)), Some((Code::BadJson, String::new())));
    }
}
