use std::fs::{self, File};
use std::io::{self, Read};
use std::path::{Path, PathBuf};
use std::{error, fmt};

use super::diagnostic::{Diagnostics, Notes, harmless};

/// Why a file cannot be read or written. Displayed, and debugged, as a line that names the file.
#[non_exhaustive]
pub enum FileError {
    /// It cannot be opened or read.
    Read {
        /// The file.
        path: PathBuf,
        /// What the system said.
        cause: io::Error,
    },
    /// It cannot be written.
    Write {
        /// The file.
        path: PathBuf,
        /// What the system said.
        cause: io::Error,
    },
    /// It is there already, and was not to be overwritten.
    Exists {
        /// The file.
        path: PathBuf,
    },
    /// It is no file: a folder, or for a file that another file names also a device or a pipe.
    NoFile {
        /// What it is called.
        path: PathBuf,
        /// `a folder`, or `a device or a pipe`.
        what: &'static str,
    },
    /// It is larger than what is read.
    TooLarge {
        /// The file.
        path: PathBuf,
        /// The most that is read, bytes.
        most: u64,
    },
    /// It is named by another file, and outside the folder in which that may name files.
    Outside {
        /// The file.
        path: PathBuf,
        /// The folder.
        folder: PathBuf,
    },
    /// What it says is wrong.
    Wrong(Diagnostics),
}

impl fmt::Display for FileError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let name = |path: &Path| harmless(&path.display().to_string());
        match self {
            FileError::Read { path, cause } => write!(f, "{}: {cause}", name(path)),
            FileError::Write { path, cause } => write!(f, "{}: cannot be written: {cause}", name(path)),
            FileError::Exists { path } => write!(f, "{} is there already", name(path)),
            FileError::NoFile { path, what } => write!(f, "{} is {what}, not a file", name(path)),
            FileError::TooLarge { path, most } => {
                write!(f, "{} has more than {} MiB, which is the most that is read", name(path), most >> 20)
            }
            FileError::Outside { path, folder } => write!(
                f,
                "{} is outside {}, where a file may name others; put it there, or allow another folder",
                name(path),
                name(folder)
            ),
            FileError::Wrong(diagnostics) => write!(f, "{diagnostics}"),
        }
    }
}

/// What `?` in a test shows.
impl fmt::Debug for FileError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            FileError::Wrong(diagnostics) => write!(f, "{diagnostics:?}"),
            error => write!(f, "{error}"),
        }
    }
}

impl error::Error for FileError {
    fn source(&self) -> Option<&(dyn error::Error + 'static)> {
        match self {
            FileError::Read { cause, .. } | FileError::Write { cause, .. } => Some(cause),
            FileError::Wrong(diagnostics) => Some(diagnostics),
            _ => None,
        }
    }
}

impl From<Diagnostics> for FileError {
    fn from(diagnostics: Diagnostics) -> FileError {
        FileError::Wrong(diagnostics)
    }
}

/// No file that is read is larger, bytes: a level of the most tiles has a third of it.
const MOST_BYTES: u64 = 64 << 20;
/// But traces may be: those of ten million ticks are the largest that we write.
const MOST_BYTES_OF_A_TRACE: u64 = 2 << 30;

/// Reads a text file.
///
/// # Errors
///
/// If it cannot be read, is a folder or has more than 64 MiB; if it is not UTF-8, with the place of the first byte that
/// is not.
pub fn read_text(path: &Path) -> Result<String, FileError> {
    text_of(path, read_bytes(path)?)
}

/// Reads a text from what is no file, such as standard input; `name` is what messages call it. It may be as long as a
/// trace.
///
/// # Errors
///
/// If it cannot be read, is not UTF-8, or is longer.
pub fn read_text_from(name: &str, from: impl Read) -> Result<String, FileError> {
    let path = Path::new(name);
    text_of(path, read_all(path, from, MOST_BYTES_OF_A_TRACE)?)
}

/// Reads a trace.
pub(crate) fn read_trace_text(path: &Path) -> Result<String, FileError> {
    text_of(path, read(path, MOST_BYTES_OF_A_TRACE)?)
}

/// Reads a file that is no text.
pub(crate) fn read_bytes(path: &Path) -> Result<Vec<u8>, FileError> {
    read(path, MOST_BYTES)
}

/// Says so if what another file names is no file: a pipe would be waited for.
pub(crate) fn check_named(path: &Path) -> Result<(), FileError> {
    match fs::metadata(path) {
        Ok(there) if !there.is_file() && !there.is_dir() => {
            Err(FileError::NoFile { path: path.into(), what: "a device or a pipe" })
        }
        _ => Ok(()),
    }
}

fn read(path: &Path, most: u64) -> Result<Vec<u8>, FileError> {
    let failed = |cause| FileError::Read { path: path.into(), cause };
    let file = File::open(path).map_err(failed)?;
    let there = file.metadata().map_err(failed)?;
    if there.is_dir() {
        return Err(FileError::NoFile { path: path.into(), what: "a folder" });
    }
    read_all(path, file, most)
}

fn read_all(path: &Path, from: impl Read, most: u64) -> Result<Vec<u8>, FileError> {
    let mut bytes = Vec::new();
    from.take(most + 1).read_to_end(&mut bytes).map_err(|cause| FileError::Read { path: path.into(), cause })?;
    if bytes.len() as u64 > most {
        return Err(FileError::TooLarge { path: path.into(), most });
    }
    Ok(bytes)
}

fn text_of(path: &Path, bytes: Vec<u8>) -> Result<String, FileError> {
    String::from_utf8(bytes).map_err(|error| {
        let valid = error.utf8_error().valid_up_to();
        let bytes = error.as_bytes();
        let text = String::from_utf8_lossy(&bytes[..valid]).into_owned();
        let mut notes = Notes::new(&path.display().to_string(), &text);
        let message = if bytes.starts_with(b"\x89PNG") {
            String::from("this is a picture (PNG), not a text")
        } else {
            format!("byte {:#04x} is not UTF-8; save the file as UTF-8 text", bytes[valid])
        };
        notes.error(valid..valid, message);
        FileError::Wrong(notes.finish().expect_err("an error was noted"))
    })
}
