//! The commands shown in the documents, run as they stand there.

use std::fs;
use std::path::Path;

/// What the commands read, where they may write as they like.
fn copied(root: &Path, folder: &str, to: &Path) {
    fs::create_dir_all(to.join(folder)).unwrap();
    for entry in fs::read_dir(root.join(folder)).unwrap().map(Result::unwrap) {
        let inside = Path::new(folder).join(entry.file_name());
        if entry.path().is_dir() {
            copied(root, inside.to_str().unwrap(), to);
        } else {
            fs::copy(entry.path(), to.join(inside)).unwrap();
        }
    }
}

#[test]
fn the_guides_commands_print_what_the_guide_says() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").canonicalize().unwrap();
    let folder = tempfile::tempdir().unwrap();
    ["docs", "demo"].iter().for_each(|name| copied(&root, name, folder.path()));
    std::env::set_current_dir(folder.path()).unwrap();
    trycmd::TestCases::new().case(root.join("docs/*.md")).env("NO_COLOR", "1");
}
