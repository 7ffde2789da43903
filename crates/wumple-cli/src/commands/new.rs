use std::path::{Path, PathBuf};

use clap::Args;
use wumple::starter;

use crate::failure::Failure;
use crate::output;

/// Writes files to start from: a commented tuning, two small levels in order, buttons, and trials that pass
///
/// The folder is made if it is not there. If one of the files is, none is written.
#[derive(Args)]
#[command(after_help = "Example:\n  wumple new my-game")]
pub(crate) struct New {
    /// The folder to write into
    #[arg(value_name = "FOLDER")]
    folder: PathBuf,
    /// Overwrite files that are there already
    #[arg(long)]
    force: bool,
}

impl New {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let written = starter::write(&self.folder, self.force)?;
        let mut text = String::new();
        for path in &written {
            text += &format!("wrote {}\n", path.display());
        }
        let file = |name: &str| quoted(&self.folder.join(name));
        let [tuning, level, buttons] = [0, 1, 2].map(|index| file(starter::FILES[index].0));
        text += &format!(
            "\nFour commands to try next:\n\n  \
             wumple run {level} --tuning {tuning} --buttons {buttons} --figure {}\n  \
             wumple arcs {tuning} --figure {}\n  \
             wumple trial {}\n  \
             wumple check {}\n\n\
             Then change a number in {tuning}, and try again.",
            file("run.svg"),
            file("arcs.svg"),
            quoted(&self.folder),
            quoted(&self.folder),
        );
        output::print(&text)
    }
}

/// A path as a shell takes it for one word.
fn quoted(path: &Path) -> String {
    let text = path.display().to_string();
    let plain = |letter: char| letter.is_alphanumeric() || "/\\:._-+~".contains(letter);
    if text.chars().all(plain) { text } else { format!("'{}'", text.replace('\'', "'\\''")) }
}
