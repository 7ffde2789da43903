//! The pages for those who work on this: every file that they name is there.

use std::path::Path;

const PAGES: [&str; 2] = ["CONTRIBUTING.md", "docs/extending.md"];

#[test]
fn every_file_that_a_page_names_is_there() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let mut seen = 0;
    for page in PAGES {
        let text = std::fs::read_to_string(root.join(page)).unwrap();
        let folder = root.join(page).parent().unwrap().to_owned();
        let code =
            text.split('`').skip(1).step_by(2).filter(|word| word.starts_with("crates/")).map(|word| (&root, word));
        let links = text.split("](").skip(1).filter_map(|part| part.split(')').next());
        let links = links.filter(|link| !link.starts_with("http")).map(|link| (&folder, link));
        for (from, named) in code.chain(links) {
            assert!(from.join(named).exists(), "{page} names {named}");
            seen += 1;
        }
    }
    assert!(seen > 40, "{seen}");
}
