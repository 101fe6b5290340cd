//! Rebuilds when a shipped file changes: they are embedded.
fn main() {
    println!("cargo:rerun-if-changed=static");
}
