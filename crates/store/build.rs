//! Rebuilds when a migration changes: they are embedded.
fn main() {
    println!("cargo:rerun-if-changed=migrations");
}
