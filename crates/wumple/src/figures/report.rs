//! A page of trials, for a browser: one file with all in it.

use std::fmt::Write;

use super::sheet;
use super::trial::trial_figure;
use crate::analysis::{TrialCheck, TrialOutcome};
use crate::files::FileError;

/// What came of trials as a page (HTML) with their figures in it: those that failed first, then what could not be run, then those that passed.
/// It needs no other file and no network, and follows the light or dark colours of whoever reads it. The same
/// outcomes give the same bytes.
///
/// ```
/// # use wumple::TrialFile;
/// # use wumple::figures::trial_report;
/// # let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("demo");
/// let outcome = TrialFile::read(&folder.join("gap.trial.toml"))?.run()?;
/// let page = trial_report([&outcome], &[]);
/// assert!(page.contains("<h1>1 trial: 1 passed</h1>") && page.contains("<svg"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[must_use]
pub fn trial_report<'a>(outcomes: impl IntoIterator<Item = &'a TrialOutcome>, errors: &[FileError]) -> String {
    let (passed, failed): (Vec<_>, Vec<_>) = outcomes.into_iter().partition(|outcome| outcome.passed());
    let all = passed.len() + failed.len() + errors.len();
    let counts = [(passed.len(), "passed"), (failed.len(), "failed"), (errors.len(), "could not be run")];
    let counts = counts.iter().filter(|(count, _)| *count > 0).map(|(count, what)| format!("{count} {what}"));
    let counts = counts.collect::<Vec<_>>().join(", ");
    let title = format!("{all} trial{}: {counts}", if all == 1 { "" } else { "s" });
    let mut page = format!(
        "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n\
         <meta name=\"viewport\" content=\"width=device-width\">\n<title>{title}</title>\n<style>\n{STYLE}{}</style>\n</head>\n\
         <body>\n<h1>{title}</h1>\n",
        sheet::dark_style()
    );
    failed.iter().for_each(|outcome| write_trial(&mut page, outcome));
    for error in errors {
        let _ = writeln!(
            page,
            "<section>\n<h2><b class=\"failed\">could not be run</b></h2>\n<pre>{}</pre>\n</section>",
            escaped(&error.to_string())
        );
    }
    passed.iter().for_each(|outcome| write_trial(&mut page, outcome));
    page + "</body>\n</html>\n"
}

const STYLE: &str = "\
:root { color-scheme: light dark; }
body { font: 15px/1.5 \"DejaVu Sans\", Verdana, sans-serif; max-width: 1280px; margin: 2em auto; padding: 0 1em;
  color: #22262B; background: #FBF9F4; }
h1 { font-size: 1.5em; }
h2 { font-size: 1.1em; margin: 2.5em 0 0.3em; }
b { padding: 0.1em 0.6em; margin-right: 0.5em; border-radius: 0.2em; font-size: 0.85em; color: #FBF9F4; background: #22694F; }
b.failed { background: #A23A1F; }
p, ul { margin: 0.3em 0; }
.of { color: #5E636A; }
table { border-collapse: collapse; margin: 0.5em 0; }
td { padding: 0.15em 1.2em 0.15em 0; vertical-align: top; }
pre { white-space: pre-wrap; }
svg { width: 100%; height: auto; border: 1px solid #8A8F94; }
summary { cursor: pointer; }
@media (prefers-color-scheme: dark) {
  body { color: #E8E5DC; background: #1C1F24; }
  .of { color: #A3A9B0; }
}
";

/// A trial: its verdict, each expectation, why it failed, and the run; folded away where it passed.
fn write_trial(page: &mut String, outcome: &TrialOutcome) {
    let (class, verdict) = if outcome.passed() { ("passed", "passed") } else { ("failed", "failed") };
    let (name, file) = (escaped(&outcome.name), escaped(&outcome.file));
    let (level, tuning) = (escaped(&outcome.level.name), escaped(&outcome.tuning.name));
    let _ = write!(
        page,
        "<section>\n<h2><b class=\"{class}\">{verdict}</b>{name}</h2>\n\
         <p class=\"of\">{file}: {level} with {tuning}, {} ticks</p>\n<table>\n",
        outcome.ticks
    );
    outcome.checks.iter().for_each(|check| write_check(page, check));
    let figure = trial_figure(outcome);
    let (open, svg) = (if outcome.passed() { "" } else { " open" }, figure.svg());
    let _ = writeln!(page, "</table>\n<details{open}>\n<summary>The run</summary>\n{svg}\n</details>\n</section>");
}

fn write_check(page: &mut String, check: &TrialCheck) {
    let expected = escaped(&check.expected);
    let Some(failure) = &check.failure else {
        let _ = writeln!(page, "<tr><td>met</td><td>line {}</td><td>{expected}</td></tr>", check.line);
        return;
    };
    let instead = escaped(&failure.instead);
    let _ = write!(
        page,
        "<tr><td><b class=\"failed\">not met</b></td><td>line {}</td><td>{expected}<p>instead {instead}</p>",
        check.line
    );
    if !failure.decisions.is_empty() {
        *page += "<p class=\"of\">The last decisions before it:</p><ul>";
        for line in &failure.decisions {
            let _ = write!(page, "<li>tick {}: {}</li>", line.tick, escaped(&line.why));
        }
        *page += "</ul>";
    }
    *page += "</td></tr>\n";
}

/// A text that is nothing but text on the page.
fn escaped(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;")
}
