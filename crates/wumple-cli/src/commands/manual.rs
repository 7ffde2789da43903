use std::path::PathBuf;

use clap::Args;
use clap_mangen::Man;

use crate::failure::Failure;
use crate::output;

/// Writes manual pages, one for the program and one for each command
#[derive(Args)]
#[command(after_help = "Example:\n  wumple manual ~/.local/share/man/man1 && man wumple-run")]
pub(crate) struct Manual {
    /// The folder to write into
    #[arg(value_name = "FOLDER")]
    folder: PathBuf,
    /// Overwrite pages that are there already
    #[arg(long)]
    force: bool,
}

impl Manual {
    pub(crate) fn execute(&self, mut program: clap::Command) -> Result<(), Failure> {
        // What is common to all is then said in each.
        program.build();
        let mut pages = vec![("wumple.1".to_owned(), page(program.clone())?)];
        for command in program.get_subcommands().filter(|command| command.get_name() != "help") {
            // `wumple-run`, once it is built.
            let name = command.get_display_name().unwrap_or(command.get_name());
            pages.push((format!("{name}.1"), page(command.clone())?));
        }
        output::write_new(&self.folder, pages, self.force)
    }
}

fn page(command: clap::Command) -> Result<Vec<u8>, Failure> {
    let mut page = Vec::new();
    Man::new(command).render(&mut page)?;
    Ok(page)
}
