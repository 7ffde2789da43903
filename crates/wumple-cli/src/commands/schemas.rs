use std::path::PathBuf;

use clap::Args;
use wumple::files::SchemaOf;

use crate::failure::Failure;
use crate::output;

/// Writes JSON Schemas of tuning, level and trial files: editors complete keys by them, and say what each is
///
/// A file names its schema in its first line: #:schema ./tuning.schema.json
#[derive(Args)]
#[command(after_help = "Example:\n  wumple schemas my-game")]
pub(crate) struct Schemas {
    /// The folder to write into
    #[arg(value_name = "FOLDER")]
    folder: PathBuf,
    /// Overwrite schemas that are there already
    #[arg(long)]
    force: bool,
}

impl Schemas {
    pub(crate) fn execute(&self) -> Result<(), Failure> {
        let schema = |of: SchemaOf| (format!("{}.schema.json", of.name()), of.schema().into_bytes());
        output::write_new(&self.folder, SchemaOf::ALL.map(schema).to_vec(), self.force)
    }
}
