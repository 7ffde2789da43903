//! Schemas for editors, held against the readers: over every file there is here, and over each with one value of it spoiled.

use std::fs;
use std::path::{Path, PathBuf};

use jsonschema::Validator;
use serde_json::{Value, json};
use wumple::files::SchemaOf;
use wumple::{Diagnostics, Level, TrialFile, TuningFile};

/// Every file of this kind in the repository that can be read.
fn files(of: SchemaOf) -> Vec<(PathBuf, String)> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../wumple");
    let corpus = format!("../fuzz/corpus/{}", of.name());
    let folders = ["demo", "demo/steps", "starter", "tests/motion", "../../docs", &corpus].map(|name| root.join(name));
    let all = folders.iter().flat_map(|folder| {
        fs::read_dir(folder).into_iter().flatten().map(|entry| entry.unwrap().path()).collect::<Vec<_>>()
    });
    let read = all.filter_map(|path| Some((path.clone(), fs::read_to_string(path).ok()?)));
    let mut read: Vec<_> = read.filter(|(path, text)| says(of, path, text).is_ok()).collect();
    read.sort();
    read
}

/// What the reader says of a text.
fn says(of: SchemaOf, path: &Path, text: &str) -> Result<(), Diagnostics> {
    let name = path.display().to_string();
    match of {
        SchemaOf::Tuning => TuningFile::parse(&name, text).map(drop),
        SchemaOf::Level => Level::parse(&name, text).map(drop),
        _ => TrialFile::parse(&name, text).map(drop),
    }
}

fn validator(of: SchemaOf) -> Validator {
    jsonschema::draft7::new(&serde_json::from_str(&of.schema()).unwrap()).unwrap()
}

/// TOML as JSON, as editors see it.
fn json_of(item: &toml_edit::Item) -> Value {
    if let Some(tables) = item.as_array_of_tables() {
        return tables.iter().map(|table| json_of(&toml_edit::Item::Table(table.clone()))).collect();
    }
    if let Some(table) = item.as_table_like() {
        return Value::Object(table.iter().map(|(key, item)| (key.to_owned(), json_of(item))).collect());
    }
    match item.as_value().unwrap() {
        toml_edit::Value::Array(all) => {
            all.iter().map(|value| json_of(&toml_edit::Item::Value(value.clone()))).collect()
        }
        toml_edit::Value::String(text) => text.value().clone().into(),
        toml_edit::Value::Integer(number) => (*number.value()).into(),
        toml_edit::Value::Float(number) => (*number.value()).into(),
        toml_edit::Value::Boolean(switch) => (*switch.value()).into(),
        other => other.to_string().into(),
    }
}

fn parsed(text: &str) -> Value {
    json_of(text.parse::<toml_edit::DocumentMut>().unwrap().as_item())
}

/// JSON as TOML: what is in a list of sections as `[[key]]`, all else in a line.
fn toml_of(file: &Value) -> String {
    let (mut lines, mut sections) = (String::new(), String::new());
    for (key, value) in file.as_object().unwrap() {
        match value.as_array().filter(|all| !all.is_empty() && all.iter().all(Value::is_object)) {
            Some(all) => {
                for section in all {
                    sections += &format!("[[{key}]]\n");
                    for (key, value) in section.as_object().unwrap() {
                        sections += &format!("{key:?} = {}\n", inline(value));
                    }
                }
            }
            None => lines += &format!("{key:?} = {}\n", inline(value)),
        }
    }
    lines + &sections
}

fn inline(value: &Value) -> String {
    match value {
        Value::Array(all) => format!("[{}]", all.iter().map(inline).collect::<Vec<_>>().join(", ")),
        Value::Object(all) => {
            let entries = all.iter().map(|(key, value)| format!("{key:?} = {}", inline(value)));
            format!("{{ {} }}", entries.collect::<Vec<_>>().join(", "))
        }
        other => other.to_string(),
    }
}

/// The place of every value within, and of every section.
fn places(value: &Value, at: &str, all: &mut Vec<String>) {
    all.push(at.to_owned());
    match value {
        Value::Object(entries) => entries.iter().for_each(|(key, value)| {
            places(value, &format!("{at}/{}", key.replace('~', "~0").replace('/', "~1")), all);
        }),
        Value::Array(values) => {
            values.iter().enumerate().for_each(|(index, value)| places(value, &format!("{at}/{index}"), all));
        }
        _ => {}
    }
}

#[test]
fn what_can_be_read_fits_its_schema() {
    for of in SchemaOf::ALL {
        let (files, validator) = (files(of), validator(of));
        assert!(files.len() > 5, "{of:?}: {}", files.len());
        for (path, text) in files {
            let file = parsed(&text);
            let wrong: Vec<String> =
                validator.iter_errors(&file).map(|error| format!("{}: {error}", error.instance_path())).collect();
            assert!(wrong.is_empty(), "{}: {wrong:?}", path.display());
            assert_eq!(
                says(of, &path, &toml_of(&file)).err().map(|wrong| wrong.to_string()),
                None,
                "{}",
                path.display()
            );
        }
    }
}

/// With one value of a file spoiled: what the reader still accepts fits, and where it says that the value is of another kind or a key unknown, the
/// schema does not fit.
#[test]
fn a_spoiled_value_is_wrong_for_both() {
    let spoils = [json!("zzq ?"), json!(true), json!(-7.5), json!([]), json!({ "zzq": 1 }), json!([["zzq"]])];
    let about_kind = [
        "needs a length",
        "needs a time",
        "needs a speed",
        "needs an acceleration",
        "needs a number",
        "needs a text",
        "must be true or false",
        "must be a section",
        "must be a value",
        "must be a pair",
        "must be one of",
        "unknown key",
        "must be an array of sections",
        "must be a whole number",
        "is no quantity",
        "unknown section",
    ];
    for of in SchemaOf::ALL {
        let validator = validator(of);
        let (mut told, mut tried) = (0, 0);
        for (path, text) in files(of) {
            let file = parsed(&text);
            let mut all = Vec::new();
            places(&file, "", &mut all);
            for (place, spoil) in all.iter().skip(1).flat_map(|place| spoils.iter().map(move |spoil| (place, spoil))) {
                let mut spoiled = file.clone();
                let value = spoiled.pointer_mut(place).unwrap();
                match value.as_object_mut().filter(|_| spoil.is_object()) {
                    // One key more.
                    Some(section) => section.extend(spoil.as_object().unwrap().clone()),
                    None => *value = spoil.clone(),
                }
                tried += 1;
                let (fits, text) = (validator.is_valid(&spoiled), toml_of(&spoiled));
                let context = || format!("{} {place} = {spoil}", path.display());
                match says(of, &path, &text) {
                    Ok(()) => assert!(fits, "{} is read, but does not fit", context()),
                    Err(wrong) => {
                        let is_about_kind = wrong.iter().any(|wrong| {
                            about_kind.iter().any(|words| wrong.message().contains(words))
                                && wrong.file() == path.display().to_string()
                        });
                        told += usize::from(is_about_kind);
                        assert!(!fits || !is_about_kind, "{} fits, but {wrong}", context());
                    }
                }
            }
        }
        assert!(told > 100 && told * 3 > tried, "{of:?}: {told} of {tried} are of another kind");
    }
}

#[test]
fn every_key_is_described() {
    for of in SchemaOf::ALL {
        let schema: Value = serde_json::from_str(&of.schema()).unwrap();
        let mut all = Vec::new();
        places(&schema, "", &mut all);
        let keys: Vec<&String> = all.iter().filter(|place| place.rsplit('/').nth(1) == Some("properties")).collect();
        assert!(keys.len() > 10, "{of:?}");
        for place in keys {
            let key = schema.pointer(place).unwrap();
            let is_of_core_section = key["type"] == "object";
            let is_style = key.get("const").is_some();
            assert!(key["description"].is_string() || is_style || is_of_core_section, "{of:?} {place}");
        }
    }
}
