use clap::Args;
use clap_complete::Shell;

use crate::failure::Failure;
use crate::output;

/// Prints what a shell needs to complete commands, options and files at the tab key
#[derive(Args)]
#[command(after_help = "Examples, each for one shell:\n  \
    wumple completions bash > ~/.local/share/bash-completion/completions/wumple\n  \
    wumple completions zsh > ~/.zfunc/_wumple\n  \
    wumple completions fish > ~/.config/fish/completions/wumple.fish")]
pub(crate) struct Completions {
    /// For which shell
    #[arg(value_enum)]
    shell: Shell,
}

impl Completions {
    pub(crate) fn execute(&self, mut program: clap::Command) -> Result<(), Failure> {
        let mut text = Vec::new();
        clap_complete::generate(self.shell, &mut program, "wumple", &mut text);
        output::print(&String::from_utf8_lossy(&text))
    }
}
