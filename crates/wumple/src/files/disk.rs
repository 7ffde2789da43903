use std::io::Write;
use std::path::{Path, PathBuf};
use std::{fs, io};

use super::diagnostic::{Diagnostics, Notes};

/// Why a file cannot be read or written.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum FileError {
    /// It cannot be opened or read.
    #[error("{}: {cause}", path.display())]
    Read {
        /// The file.
        path: PathBuf,
        /// What the system said.
        cause: io::Error,
    },
    /// It cannot be written.
    #[error("{}: cannot be written: {cause}", path.display())]
    Write {
        /// The file.
        path: PathBuf,
        /// What the system said.
        cause: io::Error,
    },
    /// It is there already.
    #[error("{} is there already; --force overwrites it", path.display())]
    Exists {
        /// The file.
        path: PathBuf,
    },
    /// What it says is wrong.
    #[error(transparent)]
    Wrong(#[from] Diagnostics),
}

/// Reads a text file.
///
/// # Errors
///
/// If it cannot be read, or is not UTF-8: then with the place of the first byte that is not.
pub fn read_text(path: &Path) -> Result<String, FileError> {
    let bytes = read_bytes(path)?;
    String::from_utf8(bytes).map_err(|error| {
        let valid = error.utf8_error().valid_up_to();
        let byte = error.as_bytes()[valid];
        let text = String::from_utf8_lossy(&error.as_bytes()[..valid]).into_owned();
        let mut notes = Notes::new(&path.display().to_string(), &text);
        let message = format!("byte {byte:#04x} is not UTF-8; save the file as UTF-8 text");
        notes.error(valid..valid, message);
        FileError::Wrong(notes.finish().expect_err("an error was noted"))
    })
}

/// Reads a file that is no text.
pub(crate) fn read_bytes(path: &Path) -> Result<Vec<u8>, FileError> {
    fs::read(path).map_err(|cause| FileError::Read { path: path.into(), cause })
}

/// Writes a file whole or not at all: into a temporary file beside it, which then takes its place. The
/// folder is made if it is not there.
///
/// # Errors
///
/// If the file is there already and `overwrite` is false, or the system refuses.
pub fn write_whole(path: &Path, contents: &[u8], overwrite: bool) -> Result<(), FileError> {
    if !overwrite && path.exists() {
        return Err(FileError::Exists { path: path.into() });
    }
    let write = || -> io::Result<()> {
        let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
        fs::create_dir_all(folder)?;
        let mut file = tempfile::Builder::new().prefix(".wumple-").tempfile_in(folder)?;
        file.write_all(contents)?;
        file.as_file().sync_all()?;
        allow_reading(file.as_file())?;
        if overwrite {
            file.persist(path).map_err(|error| error.error)?;
        } else {
            file.persist_noclobber(path).map_err(|error| error.error)?;
        }
        Ok(())
    };
    write().map_err(|cause| FileError::Write { path: path.into(), cause })
}

/// A temporary file is private to its owner; what takes its place is an ordinary file.
fn allow_reading(file: &fs::File) -> io::Result<()> {
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        file.set_permissions(fs::Permissions::from_mode(0o644))?;
    }
    let _ = file;
    Ok(())
}
