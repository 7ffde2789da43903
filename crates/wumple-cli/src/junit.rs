//! Results as JUnit XML, which build servers show.

use std::path::Path;

use quick_junit::{NonSuccessKind, Report, TestCase, TestCaseStatus, TestSuite};
use wumple::FileError;
use wumple::analysis::{Finding, TrialOutcome};

use crate::failure::Failure;
use crate::files::Files;

/// A suite for each trial, with a case for each expectation; and one of what could not be run.
pub(crate) fn of_trials(outcomes: &[&TrialOutcome], errors: &[FileError]) -> Report {
    let mut report = Report::new("wumple trial");
    for outcome in outcomes {
        let mut suite = TestSuite::new(outcome.name.as_str());
        for check in &outcome.checks {
            let place = format!("{}:{}", outcome.file, check.line);
            let status = match &check.failure {
                None => TestCaseStatus::success(),
                Some(failure) => {
                    let decisions = failure.decisions.iter();
                    let why: String =
                        decisions.map(|line| format!("decided in tick {}: {}\n", line.tick, line.why)).collect();
                    let text = format!("{place}: expected {}\ninstead: {}\n{why}", check.expected, failure.instead);
                    non_success(NonSuccessKind::Failure, &failure.instead, text)
                }
            };
            suite.add_test_case(case(&check.expected, &outcome.file, status));
        }
        report.add_test_suite(suite);
    }
    add_errors(&mut report, errors);
    report
}

/// A suite for each file, with a case for each thing that was found; one that passes where nothing was. Files that the given ones name are among
/// them where something is found in them.
pub(crate) fn of_findings<'a>(
    given: impl Iterator<Item = &'a Path>,
    findings: &[Finding],
    errors: &[FileError],
) -> Report {
    let mut report = Report::new("wumple check");
    let mut files: Vec<String> = given.map(|file| file.display().to_string()).collect();
    for finding in findings {
        if !files.iter().any(|file| file == finding.place.file()) {
            files.push(finding.place.file().to_owned());
        }
    }
    for name in files {
        let mut suite = TestSuite::new(name.as_str());
        for finding in findings.iter().filter(|finding| finding.place.file() == name) {
            let columns = finding.columns();
            let place = format!("{name}:{}:{}", columns.line, columns.column);
            let text = format!(
                "{place}: {}\nwhat it leads to: {}\nremedy: {}",
                columns.what, columns.leads_to, columns.remedy
            );
            let status = non_success(NonSuccessKind::Failure, columns.what, text);
            suite.add_test_case(case(columns.kind, &name, status));
        }
        if suite.test_cases.is_empty() {
            suite.add_test_case(case("nothing found", &name, TestCaseStatus::success()));
        }
        report.add_test_suite(suite);
    }
    add_errors(&mut report, errors);
    report
}

/// Files that are wrong or cannot be read.
fn add_errors(report: &mut Report, errors: &[FileError]) {
    if errors.is_empty() {
        return;
    }
    let mut suite = TestSuite::new("files");
    for error in errors {
        let text = match error {
            FileError::Wrong(wrong) => wrong.render(false),
            other => other.to_string(),
        };
        let first = text.lines().next().unwrap_or_default().to_owned();
        suite.add_test_case(case("can be read", "files", non_success(NonSuccessKind::Error, &first, text)));
    }
    report.add_test_suite(suite);
}

fn case(name: &str, file: &str, status: TestCaseStatus) -> TestCase {
    let mut case = TestCase::new(name, status);
    case.set_classname(file);
    case
}

fn non_success(kind: NonSuccessKind, message: &str, text: String) -> TestCaseStatus {
    let mut status = TestCaseStatus::non_success(kind);
    status.set_message(message).set_description(text);
    status
}

/// Writes a report, and says so.
pub(crate) fn write(files: &Files, path: &Path, report: &Report) -> Result<(), Failure> {
    let text = report.to_string().map_err(std::io::Error::other)?;
    files.write_and_say("JUnit", path, text.as_bytes())
}
