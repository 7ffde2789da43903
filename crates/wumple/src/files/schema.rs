//! Schemas of files for editors: which keys there are, what can be written for each, and what it says.

use serde_json::{Map, Value as Json, json};
use wumple_core::numbers::{Bounds, Key, KeyDefault, KeyKind, keys};

use super::fields::{Field, Fields, Value, core_keys};
use super::level::LEVEL;
use super::trial::TRIAL;
use super::tuning::{TUNING, release_styles};
use crate::files::group::OF_GROUP;
use crate::units::Kind;

/// The files that there are schemas of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum SchemaOf {
    /// `*.tuning.toml`
    Tuning,
    /// `*.level.toml`
    Level,
    /// `*.trial.toml`
    Trial,
}

impl SchemaOf {
    /// All of them.
    pub const ALL: [SchemaOf; 3] = [SchemaOf::Tuning, SchemaOf::Level, SchemaOf::Trial];

    /// What such a file is called: `tuning` of `*.tuning.toml`.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            SchemaOf::Tuning => "tuning",
            SchemaOf::Level => "level",
            SchemaOf::Trial => "trial",
        }
    }

    /// The schema, as JSON Schema (draft 7, which editors of TOML read): each key with what can be written for it, what it says, and what it
    /// is where it is not written. It is made of the tables that the readers go by. What several keys make wrong together it
    /// does not know: what a reader accepts fits the schema, not the other way about.
    ///
    /// ```
    /// # use wumple::files::SchemaOf;
    /// let schema = SchemaOf::Tuning.schema();
    /// assert!(schema.contains("\"time_to_apex\"") && schema.starts_with("{\n"));
    /// ```
    #[must_use]
    pub fn schema(self) -> String {
        let fields: Fields = match self {
            SchemaOf::Tuning => &[&TUNING, &OF_GROUP],
            SchemaOf::Level => &[&LEVEL],
            SchemaOf::Trial => &[&TRIAL],
        };
        let Json::Object(section) = section(fields, Map::new()) else { unreachable!("a section is an object") };
        let mut schema = Map::new();
        schema.insert("$schema".into(), "http://json-schema.org/draft-07/schema#".into());
        schema.insert("title".into(), format!("*.{}.toml of Wumple", self.name()).into());
        schema.extend(section);
        format!("{:#}\n", Json::Object(schema))
    }
}

/// A section of these keys, and of others that are made already.
fn section(fields: Fields, others: Map<String, Json>) -> Json {
    let all = || fields.iter().copied().flatten();
    let mut properties: Map<String, Json> =
        all().map(|field| (field.key.to_owned(), described(value(&field.value), field.what))).collect();
    properties.extend(others);
    let needed: Vec<&str> = all().filter(|field| field.is_needed).map(|field: &Field| field.key).collect();
    let mut section = json!({ "type": "object", "properties": properties, "additionalProperties": false });
    if !needed.is_empty() {
        section["required"] = needed.into();
    }
    section
}

fn described(mut schema: Json, what: &str) -> Json {
    schema["description"] = what.into();
    schema
}

fn value(value: &Value) -> Json {
    match *value {
        Value::Text => json!({ "type": "string" }),
        Value::TextLike(form) => json!({ "type": "string", "pattern": form }),
        Value::Texts => json!({ "type": "array", "items": { "type": "string" } }),
        Value::Switch => json!({ "type": "boolean" }),
        Value::Whole(least, most) => json!({ "type": "integer", "minimum": least, "maximum": most }),
        Value::Quantity(kinds) => quantity(kinds, &json!({})),
        Value::Pair(kind) => pair(kind),
        Value::Pairs(kind) => json!({ "type": "array", "minItems": 1, "items": pair(kind) }),
        Value::Moment => moment(),
        Value::Moments => json!({ "type": "array", "items": moment(), "minItems": 2, "maxItems": 2 }),
        Value::Words(words) => json!({ "enum": words() }),
        Value::ManyWords(words) => {
            let word = json!({ "enum": words() });
            json!({ "anyOf": [word, { "type": "array", "minItems": 1, "items": word }] })
        }
        Value::Section(fields) => section(fields, Map::new()),
        Value::Sections(fields) => json!({ "type": "array", "minItems": 1, "items": section(fields, Map::new()) }),
        Value::Named(form, of) => {
            json!({ "type": "object", "patternProperties": { form: self::value(of) }, "additionalProperties": false })
        }
        Value::Any => json!({ "type": ["number", "string", "boolean"] }),
        Value::OneOf(values) => json!({ "anyOf": values.iter().map(self::value).collect::<Vec<_>>() }),
        Value::OfCore("feels", fields) => feels(fields),
        Value::OfCore(name, fields) => of_core(name, fields),
        Value::Release => release(),
    }
}

/// A number, or a text with a unit. Bounds are those of a bare number: what a text is depends on the scale.
fn quantity(kinds: &[Kind], bounds: &Json) -> Json {
    let mut number = bounds.clone();
    number["type"] = "number".into();
    let units: Vec<String> =
        kinds.iter().flat_map(|kind| kind.spellings()).map(|unit| unit.replace('^', "\\^")).collect();
    let unit = if units.is_empty() { String::new() } else { format!("({})?", units.join("|")) };
    let form = format!(r"^\s*[+-]?([0-9]+(\.[0-9]*)?|\.[0-9]+)([eE][+-]?[0-9]+)?\s*{unit}\s*$");
    json!({ "anyOf": [number, { "type": "string", "pattern": form }] })
}

fn pair(kind: Kind) -> Json {
    json!({ "type": "array", "items": quantity(&[kind], &json!({})), "minItems": 2, "maxItems": 2 })
}

/// A tick, or a time.
fn moment() -> Json {
    quantity(&[Kind::Time], &json!({ "minimum": 0 }))
}

/// A section of the core's keys, with the sections in it.
fn of_core(name: &str, fields: Fields) -> Json {
    let mut properties: Map<String, Json> =
        core_keys(name).map(|key| (key.parts().1.to_owned(), of_key(key))).collect();
    let given = |inner: &str| fields.iter().copied().flatten().any(|field| field.key == inner);
    let within = |key: &'static Key| key.parts().0.strip_prefix(name)?.strip_prefix('.');
    for inner in keys().filter_map(within).filter(|inner| !given(inner)) {
        properties.entry(inner).or_insert_with(|| of_core(&format!("{name}.{inner}"), &[]));
    }
    let mut needed: Vec<&str> =
        core_keys(name).filter(|key| key.default == KeyDefault::Needed).map(|key| key.parts().1).collect();
    let pairs = needed.contains(&"time_to_apex");
    if pairs {
        needed.retain(|key| !PAIRS.concat().contains(key));
    }
    let mut section = section(fields, properties);
    if !needed.is_empty() {
        section["required"] = needed.into();
    }
    if pairs {
        section["oneOf"] = PAIRS.map(|pair| json!({ "required": pair })).to_vec().into();
    }
    section
}

/// A jump is said by one of these.
const PAIRS: [[&str; 2]; 2] = [["height", "time_to_apex"], ["speed", "gravity"]];

/// `[feels]` has kinds of a game's own too.
fn feels(fields: Fields) -> Json {
    let mut section = of_core("feels", fields);
    if let (Value::TextLike(form), Some(section)) = (Value::WORD, section.as_object_mut()) {
        section.insert("patternProperties".into(), json!({ form: value(&Value::MARGIN) }));
    }
    section
}

/// What letting go of the jump button does: a style, with its own keys.
fn release() -> Json {
    let styles = release_styles().map(|(style, keys)| {
        let mut properties: Map<String, Json> =
            keys.iter().map(|key| (key.parts().1.to_owned(), of_key(key))).collect();
        properties.insert("style".into(), json!({ "const": style }));
        let needed = keys.iter().filter(|key| key.default == KeyDefault::Needed).map(|key| key.parts().1);
        let needed: Vec<&str> = ["style"].into_iter().chain(needed).collect();
        json!({ "type": "object", "properties": properties, "required": needed, "additionalProperties": false })
    });
    json!({ "oneOf": styles.collect::<Vec<_>>() })
}

/// A key of the core.
fn of_key(key: &Key) -> Json {
    let Bounds { least, above, most, .. } = key.bounds;
    let mut bounds = json!({});
    if !matches!(key.kind, KeyKind::RunRate | KeyKind::Lift) {
        bounds[if above { "exclusiveMinimum" } else { "minimum" }] = least.into();
        if most.is_finite() {
            bounds["maximum"] = most.into();
        }
    }
    let mut schema = match key.kind {
        KeyKind::RunRate => {
            let rate = quantity(&[Kind::Acceleration, Kind::Time], &json!({ "minimum": 0 }));
            json!({ "anyOf": [{ "const": "instant" }, rate] })
        }
        KeyKind::Lift => quantity(&[Kind::Speed, Kind::Acceleration], &json!({ "minimum": 0 })),
        KeyKind::Margin => value(&Value::MARGIN),
        KeyKind::Count => json!({ "type": "integer", "minimum": least, "maximum": most }),
        KeyKind::Switch => json!({ "type": "boolean" }),
        KeyKind::Word(words) => {
            let usual = match key.default {
                KeyDefault::Word(usual) if !words.contains(&usual) => Some(usual),
                _ => None,
            };
            json!({ "enum": usual.iter().chain(words).collect::<Vec<_>>() })
        }
        kind => quantity(&[Kind::of_key(kind).unwrap_or(Kind::Number)], &bounds),
    };
    match key.default {
        KeyDefault::Number(usual) if usual.is_finite() => schema["default"] = usual.into(),
        KeyDefault::Word(word) if key.kind == KeyKind::Switch => schema["default"] = (word == "true").into(),
        KeyDefault::Word(word) => schema["default"] = word.into(),
        KeyDefault::Instant => schema["default"] = "instant".into(),
        _ => {}
    }
    let unit = if key.bounds.unit.is_empty() { String::new() } else { format!(" ({})", key.bounds.unit) };
    described(schema, &format!("{}{unit}", key.what))
}
