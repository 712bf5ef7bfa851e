//! Reading a request field by field, with the path of whatever is wrong.
use std::collections::HashSet;

use rust_decimal::Decimal;
use serde_json::{Map, Number, Value};

use super::{CalcError, Code};
use crate::{Length, Unit};

/// The fields of one JSON object. Take what is known, then [`Fields::finish`] refuses the rest.
pub(super) struct Fields {
    map: Map<String, Value>,
    path: String,
}

/// What no price reaches, in ten-thousandths.
const DEAREST: i64 = 1_000_000_000_000;

/// Which numbers a length may be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Sign {
    Positive,
    NotNegative,
    Any,
}

/// A value that was found, with its path.
pub(super) struct Found {
    value: Value,
    pub(super) path: String,
}

impl Fields {
    /// The fields of `value`, which stands at `path`.
    pub(super) fn of(value: Value, path: impl Into<String>) -> Result<Self, CalcError> {
        let path = path.into();
        match value {
            Value::Object(map) => Ok(Fields { map, path }),
            _ => Err(CalcError::new(Code::WrongType, path, "a JSON object is needed here")),
        }
    }

    fn at(&self, name: &str) -> String {
        if self.path.is_empty() { name.to_owned() } else { format!("{}.{name}", self.path) }
    }

    /// An error at one of the fields.
    pub(super) fn error(&self, code: Code, name: &str, message: impl Into<String>) -> CalcError {
        CalcError::new(code, self.at(name), message)
    }

    /// A field that may be absent; `null` is absent.
    pub(super) fn take(&mut self, name: &str) -> Option<Found> {
        let value = self.map.remove(name).filter(|v| !v.is_null())?;
        Some(Found { value, path: self.at(name) })
    }

    /// A length that may be absent.
    pub(super) fn take_length(&mut self, name: &str, unit: Unit, sign: Sign) -> Result<Option<Length>, CalcError> {
        self.take(name).map(|found| found.length(unit, sign)).transpose()
    }

    /// A field that must be there.
    pub(super) fn need(&mut self, name: &str) -> Result<Found, CalcError> {
        self.take(name).ok_or_else(|| self.error(Code::MissingField, name, format!("\"{name}\" is missing")))
    }

    /// The unit of the request: inches unless given.
    pub(super) fn unit(&mut self) -> Result<Unit, CalcError> {
        self.take("unit").map_or(Ok(Unit::Inch), |f| f.one_of(&[("in", Unit::Inch), ("mm", Unit::Mm)]))
    }

    /// Everything that nobody took yet, by name.
    pub(super) fn rest(self) -> Vec<(String, Found)> {
        let path = self.path.clone();
        let at = |name: &str| if path.is_empty() { name.to_owned() } else { format!("{path}.{name}") };
        self.map.into_iter().map(|(name, value)| (name.clone(), Found { value, path: at(&name) })).collect()
    }

    /// Refuses fields that nobody took.
    pub(super) fn finish(self) -> Result<(), CalcError> {
        match self.map.keys().next() {
            None => Ok(()),
            Some(name) => {
                Err(self.error(Code::UnknownField, name, format!("\"{name}\" is not known here: check its spelling")))
            }
        }
    }
}

impl Found {
    fn error(&self, code: Code, message: impl Into<String>) -> CalcError {
        CalcError::new(code, self.path.clone(), message)
    }

    fn wrong_type(&self, wanted: &str) -> CalcError {
        self.error(Code::WrongType, format!("{wanted} is needed here"))
    }

    /// One of some texts.
    pub(super) fn one_of<T: Copy>(self, allowed: &[(&str, T)]) -> Result<T, CalcError> {
        let Value::String(text) = &self.value else { return Err(self.wrong_type("a text")) };
        allowed.iter().find(|(name, _)| name == text).map(|(_, value)| *value).ok_or_else(|| {
            let names = allowed.iter().map(|(name, _)| format!("\"{name}\"")).collect::<Vec<_>>().join(", ");
            self.error(Code::NotAllowed, format!("\"{text}\" is not one of {names}"))
        })
    }

    /// A text.
    pub(super) fn text(self) -> Result<String, CalcError> {
        match self.value {
            Value::String(text) => Ok(text),
            _ => Err(self.wrong_type("a text")),
        }
    }

    /// A text that names something: not empty.
    pub(super) fn name(self) -> Result<String, CalcError> {
        let path = self.path.clone();
        match self.text()? {
            name if name.is_empty() => Err(CalcError::new(Code::Empty, path, "a name is needed here")),
            name => Ok(name),
        }
    }

    fn number(&self) -> Result<&Number, CalcError> {
        match &self.value {
            Value::Number(number) => Ok(number),
            _ => Err(self.wrong_type("a number")),
        }
    }

    /// A number within limits.
    pub(super) fn number_within(self, low: f64, high: f64) -> Result<f64, CalcError> {
        let number = self.number()?.as_f64().filter(|n| (low..=high).contains(n));
        number.ok_or_else(|| self.error(Code::OutOfRange, format!("the number must lie from {low} to {high}")))
    }

    /// Any finite number.
    pub(super) fn any_number(self) -> Result<f64, CalcError> {
        self.number_within(f64::MIN, f64::MAX)
    }

    /// A direction in degrees, within a turn either way.
    pub(super) fn angle(self) -> Result<f64, CalcError> {
        self.number_within(-360.0, 360.0)
    }

    /// A number above zero.
    pub(super) fn positive_number(self) -> Result<f64, CalcError> {
        let path = self.path.clone();
        match self.any_number()? {
            n if n > 0.0 => Ok(n),
            _ => Err(CalcError::new(Code::NotPositive, path, "this must be above zero")),
        }
    }

    /// A number that is not below zero.
    pub(super) fn number_from_zero(self) -> Result<f64, CalcError> {
        let path = self.path.clone();
        match self.any_number()? {
            n if n >= 0.0 => Ok(n),
            _ => Err(CalcError::new(Code::Negative, path, "this cannot be below zero")),
        }
    }

    /// A whole number of at least one.
    pub(super) fn count(self) -> Result<u64, CalcError> {
        let number = self.number()?;
        // 4 and 4.0 are the same number to JSON.
        let whole = number.as_f64().filter(|n| n.fract() == 0.0);
        match whole {
            None => Err(self.error(Code::WrongType, "a whole number is needed here")),
            Some(n) if n < 1.0 => Err(self.error(Code::NotPositive, "a count is at least 1")),
            Some(n) if n > 1e15 => Err(self.error(Code::OutOfRange, "the count does not fit")),
            Some(n) => Ok(n as u64),
        }
    }

    /// A number of things: whole, not below zero.
    pub(super) fn whole(self) -> Result<u16, CalcError> {
        let number = self.number()?.as_f64().filter(|n| n.fract() == 0.0);
        match number {
            None => Err(self.error(Code::WrongType, "a whole number is needed here")),
            Some(n) if n < 0.0 => Err(self.error(Code::Negative, "this cannot be below zero")),
            Some(n) if n > f64::from(u16::MAX) => Err(self.error(Code::OutOfRange, "the number does not fit")),
            Some(n) => Ok(n as u16),
        }
    }

    /// Money in ten-thousandths: not below zero, at most four decimals.
    pub(super) fn price(self) -> Result<i64, CalcError> {
        let number = self.number()?;
        let decimal = number.as_i64().map(Decimal::from).or_else(|| number.as_f64()?.to_string().parse().ok());
        let parts = decimal.and_then(|d| d.checked_mul(Decimal::from(10_000))).map(|d| d.normalize());
        match parts {
            Some(p) if p < Decimal::ZERO => Err(self.error(Code::Negative, "a price cannot be below zero")),
            Some(p) if p.scale() == 0 && p < Decimal::from(DEAREST) => i64::try_from(p).map_err(|_| self.too_dear()),
            _ => Err(self.too_dear()),
        }
    }

    fn too_dear(&self) -> CalcError {
        self.error(Code::OutOfRange, "a price has at most four decimals and fits in a till")
    }

    /// Yes or no.
    pub(super) fn flag(self) -> Result<bool, CalcError> {
        match self.value {
            Value::Bool(flag) => Ok(flag),
            _ => Err(self.wrong_type("true or false")),
        }
    }

    /// The number as it was written: the shortest decimal that reads back to it.
    fn decimal(&self) -> Result<Option<Decimal>, CalcError> {
        let number = self.number()?;
        Ok(number.as_i64().map(Decimal::from).or_else(|| {
            let text = number.as_f64()?.to_string();
            Decimal::from_str_exact(&text).or_else(|_| text.parse()).ok()
        }))
    }

    /// What any part weighs less than, in grams.
    pub(super) const HEAVIEST: Decimal = Decimal::from_parts(1_000_000_000, 0, 0, false, 0);

    /// A weight in grams, above zero.
    pub(super) fn grams(self) -> Result<Decimal, CalcError> {
        let grams = self.decimal()?;
        match grams {
            Some(g) if g <= Decimal::ZERO => Err(self.error(Code::NotPositive, "a weight lies above zero")),
            _ => self.decimal_within(Decimal::ZERO, Self::HEAVIEST),
        }
    }

    /// A weight in grams that may be nothing.
    pub(super) fn grams_from_zero(self) -> Result<Decimal, CalcError> {
        let grams = self.decimal()?;
        match grams {
            Some(g) if g < Decimal::ZERO => Err(self.error(Code::Negative, "this cannot be below zero")),
            _ => self.decimal_within(Decimal::ZERO, Self::HEAVIEST),
        }
    }

    /// A number within limits, as it was written.
    pub(super) fn decimal_within(self, low: Decimal, high: Decimal) -> Result<Decimal, CalcError> {
        let number = self.decimal()?.filter(|n| (low..=high).contains(n));
        number.ok_or_else(|| self.error(Code::OutOfRange, format!("the number must lie from {low} to {high}")))
    }

    /// A length in `unit`, rounded half to even to the nanometre.
    pub(super) fn length(self, unit: Unit, sign: Sign) -> Result<Length, CalcError> {
        let decimal = self.decimal()?;
        let length = decimal.and_then(|d| Length::from_decimal(d, unit));
        let length = length.ok_or_else(|| self.error(Code::OutOfRange, "a length must stay below 100 m"))?;
        match sign {
            Sign::Positive if length <= Length::ZERO => Err(self.error(Code::NotPositive, "this must be above zero")),
            Sign::NotNegative if length < Length::ZERO => Err(self.error(Code::Negative, "this cannot be below zero")),
            _ => Ok(length),
        }
    }

    /// The items of a list that must not be empty.
    pub(super) fn list(self) -> Result<Vec<Found>, CalcError> {
        match self.value {
            Value::Array(items) if items.is_empty() => {
                Err(CalcError::new(Code::Empty, self.path, "this list must not be empty"))
            }
            Value::Array(items) => {
                let item = |(i, value)| Found { value, path: format!("{}[{i}]", self.path) };
                Ok(items.into_iter().enumerate().map(item).collect())
            }
            _ => Err(self.wrong_type("a list")),
        }
    }

    /// The items of a list that may be empty.
    pub(super) fn list_or_none(self) -> Result<Vec<Found>, CalcError> {
        match &self.value {
            Value::Array(items) if items.is_empty() => Ok(Vec::new()),
            _ => self.list(),
        }
    }

    /// The items of a list with an `id` each, none of them twice; there must be one.
    pub(super) fn listed(self) -> Result<Vec<(String, Fields)>, CalcError> {
        self.not_empty()?.with_ids()
    }

    /// Refuses an empty list.
    pub(super) fn not_empty(self) -> Result<Found, CalcError> {
        if matches!(&self.value, Value::Array(items) if items.is_empty()) {
            return Err(self.error(Code::Empty, "this list must not be empty"));
        }
        Ok(self)
    }

    /// The same for a list that may be empty.
    pub(super) fn with_ids(self) -> Result<Vec<(String, Fields)>, CalcError> {
        let mut seen = HashSet::new();
        let item = |found: Found| {
            let mut fields = found.object()?;
            let id = fields.need("id")?.text()?;
            if seen.insert(id.clone()) {
                Ok((id, fields))
            } else {
                Err(fields.error(Code::Duplicate, "id", format!("\"{id}\" is there twice")))
            }
        };
        self.list_or_none()?.into_iter().map(item).collect()
    }

    /// The items of a list that may be empty, each with a name of its own in the field `key`.
    pub(super) fn named(self, key: &str) -> Result<Vec<(String, Fields)>, CalcError> {
        let mut seen = HashSet::new();
        let item = |found: Found| {
            let mut fields = found.object()?;
            let name = fields.need(key)?.name()?;
            if seen.insert(name.clone()) {
                Ok((name, fields))
            } else {
                Err(fields.error(Code::Duplicate, key, format!("\"{name}\" is there twice")))
            }
        };
        self.list_or_none()?.into_iter().map(item).collect()
    }

    /// A pair of lengths of which the first is not above the second.
    pub(super) fn pair(self, [low, high]: [&str; 2], unit: Unit, sign: Sign) -> Result<(Length, Length), CalcError> {
        let mut pair = self.object()?;
        let (from, to) = (pair.need(low)?.length(unit, sign)?, pair.need(high)?.length(unit, sign)?);
        if from > to {
            return Err(pair.error(Code::Inconsistent, low, format!("\"{low}\" lies above \"{high}\"")));
        }
        pair.finish()?;
        Ok((from, to))
    }

    /// An object.
    pub(super) fn object(self) -> Result<Fields, CalcError> {
        Fields::of(self.value, self.path)
    }
}

/// A length as a number of `unit` in an answer.
pub(super) fn number(length: Length, unit: Unit) -> Value {
    let decimal = length.to_decimal(unit).to_string();
    decimal.parse::<f64>().ok().and_then(Number::from_f64).map_or(Value::Null, Value::Number)
}

/// A float of nanometres as a number of `unit`, rounded like any length. Nothing that is shown goes beyond what fits.
pub(super) fn number_of_f64(nm: f64, unit: Unit) -> Value {
    Length::from_f64(nm).map_or(Value::Null, |length| number(length, unit))
}

/// A float of nanometres as a number of `unit`, as it is.
pub(super) fn unrounded(nm: f64, unit: Unit) -> Value {
    Number::from_f64(nm / unit.nm() as f64).map_or(Value::Null, Value::Number)
}

/// Half of a whole number of nanometres.
pub(super) fn number_of_half(twice: i64, unit: Unit) -> Value {
    number_of_f64(twice as f64 / 2.0, unit)
}

/// The same for whole nanometres, as the search counts.
pub(super) fn number_of_nm(nm: i64, unit: Unit) -> Value {
    number(Length::from_nm(nm), unit)
}

/// As whole nanometres, for the search.
pub(super) fn nm(lengths: &[Length]) -> Vec<i64> {
    lengths.iter().map(|l| l.nm()).collect()
}
