//! What goes wrong, and how it is told.

use std::io;
use std::path::PathBuf;
use std::process::ExitCode;

use wumple::figures::RenderError;
use wumple::files::Diagnostic;
use wumple::{Diagnostics, FileError};

use crate::say::say;

/// Why a command did not do its work.
pub(crate) enum Failure {
    /// Files are wrong or cannot be read or written.
    Files(Vec<FileError>),
    /// A check found something, which is a result and was printed as one.
    Found,
    /// An option is wrong, in words.
    Usage(String),
    /// Standard input is asked for where files are read again and again.
    ReadOnce,
    /// Results could not be printed.
    Output(io::Error),
}

impl Failure {
    /// The files that are wrong or cannot be read.
    pub(crate) fn files(&self) -> Vec<PathBuf> {
        let Failure::Files(errors) = self else { return Vec::new() };
        let of = |error: &FileError| match error {
            FileError::Wrong(wrong) => wrong.iter().map(|wrong| PathBuf::from(wrong.file())).collect(),
            FileError::Read { path, .. } | FileError::NoFile { path, .. } | FileError::TooLarge { path, .. } => {
                vec![path.clone()]
            }
            _ => Vec::new(),
        };
        errors.iter().flat_map(of).collect()
    }

    /// Tells it on standard error.
    pub(crate) fn report(self) -> ExitCode {
        match self {
            Failure::Files(errors) => errors.iter().for_each(|error| match error {
                FileError::Wrong(diagnostics) => say(diagnostics.render(true)),
                FileError::Exists { .. } => say(format_args!("wumple: {error}; --force overwrites it")),
                error => say(format_args!("wumple: {error}")),
            }),
            Failure::Found => return ExitCode::from(1),
            Failure::Usage(words) => say(format_args!("wumple: {words}")),
            Failure::ReadOnce => {
                say("wumple: --watch reads files again, and standard input can be read but once: name it")
            }
            // Whoever reads our results may stop reading when they have enough.
            Failure::Output(error) if error.kind() == io::ErrorKind::BrokenPipe => return ExitCode::SUCCESS,
            Failure::Output(error) => say(format_args!("wumple: cannot print the results: {error}")),
        }
        ExitCode::from(2)
    }
}

impl From<FileError> for Failure {
    fn from(error: FileError) -> Failure {
        Failure::Files(vec![error])
    }
}

impl From<Diagnostics> for Failure {
    fn from(diagnostics: Diagnostics) -> Failure {
        Failure::from(FileError::Wrong(diagnostics))
    }
}

impl From<Diagnostic> for Failure {
    fn from(diagnostic: Diagnostic) -> Failure {
        Failure::from(Diagnostics::from(diagnostic))
    }
}

impl From<RenderError> for Failure {
    fn from(error: RenderError) -> Failure {
        Failure::Usage(error.to_string())
    }
}

impl From<io::Error> for Failure {
    fn from(error: io::Error) -> Failure {
        Failure::Output(error)
    }
}
