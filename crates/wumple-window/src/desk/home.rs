//! The file that a text is kept in.

use std::path::{Path, PathBuf};

use wumple::files::write_whole;

/// The file that a text is kept in, or will be.
#[derive(Clone, Debug)]
pub struct Home {
    name: String,
    path: Option<PathBuf>,
}

impl Home {
    /// `name`: what messages call the file, and what a new one is called.
    #[must_use]
    pub fn new(name: &str, path: Option<&Path>) -> Home {
        Home { name: name.to_owned(), path: path.map(Path::to_owned) }
    }

    /// What it is called.
    #[must_use]
    pub fn name(&self) -> &str {
        &self.name
    }

    /// Where it is; none of what was never kept.
    #[must_use]
    pub fn path(&self) -> Option<&Path> {
        self.path.as_deref()
    }

    /// Writes the text into its file; where there is none yet, into a new one of its name in the folder. Says where it is kept.
    ///
    /// # Errors
    ///
    /// If it cannot be written, or a new one would write over another; nothing is lost then.
    pub(super) fn write(&mut self, text: &str, folder: &Path) -> Result<String, String> {
        let (path, is_new) = match &self.path {
            Some(path) => (path.clone(), false),
            None => (folder.join(&self.name), true),
        };
        write_whole(&path, text.as_bytes(), !is_new).map_err(|error| error.to_string())?;
        let words = format!("kept in {}", path.display());
        self.path = Some(path);
        Ok(words)
    }
}
