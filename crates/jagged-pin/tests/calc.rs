//! `jagged-pin calc` as scripts use it.
use std::io::Write;
use std::process::{Command, Output, Stdio};

type Outcome = Result<(), Box<dyn std::error::Error>>;

fn calc(arguments: &[&str], input: &str) -> Result<Output, Box<dyn std::error::Error>> {
    let mut child = Command::new(env!("CARGO_BIN_EXE_jagged-pin"))
        .arg("calc")
        .args(arguments)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()?;
    child.stdin.take().ok_or("no input")?.write_all(input.as_bytes())?;
    Ok(child.wait_with_output()?)
}

fn lines(output: &Output) -> Vec<serde_json::Value> {
    let text = String::from_utf8_lossy(&output.stdout).into_owned();
    text.lines().map(|l| serde_json::from_str(l).unwrap_or_default()).collect()
}

#[test]
fn one_request_gets_one_answer() -> Outcome {
    let output = calc(&["verdict"], r#"{"value": 0.0019, "low": 0.0022, "high": 0.0028, "expanded": 0.0001}"#)?;
    assert_eq!(output.status.code(), Some(0));
    assert_eq!(lines(&output)[0]["state"], "tight");
    assert_eq!(lines(&output)[0]["margin"], -0.0003);
    Ok(())
}

#[test]
fn a_refused_request_is_an_error_object_and_status_2() -> Outcome {
    let output = calc(&["verdict"], r#"{"value": 0.0019}"#)?;
    assert_eq!(output.status.code(), Some(2));
    assert_eq!(lines(&output)[0]["error"]["code"], "missing_field");
    let unknown = calc(&["slotting"], "{}")?;
    assert_eq!(unknown.status.code(), Some(2));
    assert_eq!(lines(&unknown)[0]["error"]["code"], "unknown_calculator");
    Ok(())
}

#[test]
fn with_lines_every_request_is_answered_in_its_place() -> Outcome {
    let requests = concat!(
        r#"{"method": "subtract", "bore": 2.6262, "journal": 2.6238}"#,
        "\n\n",
        r#"{"method": "subtract", "bore": 2.6262}"#,
        "\n",
        r#"{"unit": "mm", "method": "subtract", "bore": 60.051, "journal": 59.991}"#,
        "\n",
    );
    let output = calc(&["clearance", "--lines"], requests)?;
    let answers = lines(&output);
    assert_eq!(output.status.code(), Some(2));
    assert_eq!(answers.len(), 3);
    assert_eq!(answers[0]["clearance"], 0.0024);
    assert_eq!(answers[1]["error"]["path"], "journal");
    assert_eq!(answers[2]["clearance"], 0.06);
    Ok(())
}

#[test]
fn every_operation_of_the_api_has_a_name_of_its_own() -> Outcome {
    let printed = Command::new(env!("CARGO_BIN_EXE_jagged-pin")).arg("openapi").output()?;
    let document: serde_json::Value = serde_json::from_slice(&printed.stdout)?;
    let paths = document["paths"].as_object().ok_or("no paths")?;
    let operations = paths.values().filter_map(|p| p.as_object()).flat_map(|p| p.values());
    let mut names: Vec<&str> = operations.filter_map(|o| o["operationId"].as_str()).collect();
    let count = names.len();
    names.sort_unstable();
    names.dedup();
    assert!(count > 30, "{count}");
    assert_eq!(names.len(), count, "two handlers of one name: one hides the other's description");
    Ok(())
}

#[test]
fn the_openapi_document_is_the_committed_one() -> Outcome {
    let printed = Command::new(env!("CARGO_BIN_EXE_jagged-pin")).arg("openapi").output()?;
    let committed = std::fs::read_to_string(concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/openapi.json"))?;
    assert!(
        String::from_utf8_lossy(&printed.stdout).trim() == committed.trim(),
        "docs/openapi.json is out of date: jagged-pin openapi > docs/openapi.json, then npm run api in web/"
    );
    Ok(())
}

#[test]
fn the_catalogue_is_the_committed_one() -> Outcome {
    let printed = Command::new(env!("CARGO_BIN_EXE_jagged-pin")).arg("catalog").output()?;
    let committed = std::fs::read_to_string(concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/catalog.json"))?;
    assert!(
        String::from_utf8_lossy(&printed.stdout).trim() == committed.trim(),
        "docs/catalog.json is out of date: jagged-pin catalog > docs/catalog.json"
    );
    Ok(())
}
