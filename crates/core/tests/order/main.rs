//! The order of the core's modules: no file takes from one that takes from it, straight or round a corner. What a folder's
//! own file defines is its parts' common ground: that they take it is no arrow. Calls of methods are not seen, only names.
#![allow(clippy::unwrap_used, clippy::indexing_slicing, reason = "tests")]

use std::{
    collections::{BTreeMap, BTreeSet},
    fs,
    path::{Path, PathBuf},
};

use petgraph::{algo::tarjan_scc, graphmap::DiGraphMap};
use syn::{Item, UseTree, Visibility, visit::Visit};
use walkdir::WalkDir;

/// `crate::plan::search` as its segments.
type Module = Vec<String>;

/// A module's file, what it gives on from others, and the paths it names.
#[derive(Default)]
struct Source {
    /// Name it is given on under, and the path it stands for.
    gives_on: BTreeMap<String, Module>,
    takes: BTreeSet<Module>,
}

fn module_of(file: &Path, root: &Path) -> Module {
    let mut parts: Module = file.strip_prefix(root).unwrap().with_extension("").iter().map(|p| p.to_str().unwrap().to_owned()).collect();
    if matches!(parts.last().map(String::as_str), Some("mod" | "lib")) {
        parts.pop();
    }
    parts
}

/// The paths a `use` names, each with the name it is then called by.
fn paths(tree: &UseTree, before: &Module, found: &mut Vec<(Module, String)>) {
    let with = |name: String| before.iter().cloned().chain([name]).collect::<Module>();
    match tree {
        UseTree::Path(p) => paths(&p.tree, &with(p.ident.to_string()), found),
        UseTree::Name(n) if n.ident == "self" => found.push((before.clone(), before.last().cloned().unwrap_or_default())),
        UseTree::Name(n) => found.push((with(n.ident.to_string()), n.ident.to_string())),
        UseTree::Rename(r) => found.push((with(r.ident.to_string()), r.rename.to_string())),
        UseTree::Glob(_) => found.push((before.clone(), "*".to_owned())),
        UseTree::Group(g) => g.items.iter().for_each(|t| paths(t, before, found)),
    }
}

/// A path as it is written in a module, from the root of the crate; nothing if it leads out of it.
fn from_root(path: &[String], here: &Module, children: &BTreeSet<String>) -> Option<Module> {
    let (first, rest) = path.split_first()?;
    let mut base = match first.as_str() {
        "crate" => Vec::new(),
        "self" => here.clone(),
        "super" => here[..here.len().checked_sub(1)?].to_vec(),
        child if children.contains(child) => here.iter().cloned().chain([child.to_owned()]).collect(),
        _ => return None,
    };
    let ups = if first == "super" { rest.iter().take_while(|s| *s == "super").count() } else { 0 };
    base.truncate(base.len().checked_sub(ups)?);
    base.extend(rest[ups..].iter().cloned());
    Some(base)
}

/// Paths that are written out in the code, beside those of `use`.
struct Written<'a>(&'a mut Vec<Module>);

impl Visit<'_> for Written<'_> {
    fn visit_path(&mut self, path: &syn::Path) {
        self.0.push(path.segments.iter().map(|s| s.ident.to_string()).collect());
        syn::visit::visit_path(self, path);
    }
}

fn read(root: &Path) -> BTreeMap<Module, Source> {
    let files: Vec<PathBuf> =
        WalkDir::new(root).into_iter().map(|e| e.unwrap().into_path()).filter(|p| p.extension().is_some_and(|e| e == "rs")).collect();
    let modules: BTreeSet<Module> = files.iter().map(|f| module_of(f, root)).collect();
    let mut all = BTreeMap::new();
    for file in &files {
        let here = module_of(file, root);
        if here.last().is_some_and(|m| m == "tests") {
            continue;
        }
        let below = modules.iter().filter(|m| m.len() == here.len() + 1 && m.starts_with(&here));
        let children: BTreeSet<String> = below.map(|m| m.last().unwrap().clone()).collect();
        let syntax = syn::parse_file(&fs::read_to_string(file).unwrap()).unwrap();
        let mut source = Source::default();
        let mut written = Vec::new();
        for item in &syntax.items {
            match item {
                Item::Use(u) => {
                    let mut named = Vec::new();
                    paths(&u.tree, &Vec::new(), &mut named);
                    for (path, name) in named {
                        let Some(path) = from_root(&path, &here, &children) else { continue };
                        // What is only given on is no want of the module's own.
                        if matches!(u.vis, Visibility::Inherited) {
                            source.takes.insert(path);
                        } else {
                            source.gives_on.insert(name, path);
                        }
                    }
                }
                Item::Mod(m) if m.attrs.iter().any(|a| a.path().is_ident("cfg")) => {}
                other => Written(&mut written).visit_item(other),
            }
        }
        source.takes.extend(written.into_iter().filter(|p| p.len() > 1).filter_map(|p| from_root(&p, &here, &children)));
        all.insert(here, source);
    }
    all
}

/// The module in which what a path names is defined: through what is given on, to the longest module that the path begins with.
fn home(path: &Module, all: &BTreeMap<Module, Source>) -> Option<Module> {
    let mut path = path.clone();
    for _ in 0..8 {
        let cut = (0..=path.len()).rev().find(|n| all.contains_key(&path[..*n]))?;
        let module = path[..cut].to_vec();
        let Some(given) = path.get(cut).and_then(|name| all[&module].gives_on.get(name)) else { return Some(module) };
        let mut next = given.clone();
        next.extend(path[cut + 1..].iter().cloned());
        path = next;
    }
    None
}

#[test]
fn no_module_takes_from_one_that_takes_from_it() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("src");
    let all = read(&root);
    let modules: Vec<&Module> = all.keys().collect();
    let nth = |m: &Module| modules.iter().position(|x| *x == m);
    let mut graph = DiGraphMap::<usize, &str>::new();
    for (i, (here, source)) in all.iter().enumerate() {
        let taken = source.takes.iter().filter_map(|p| Some((home(p, &all)?, p.last()?)));
        for (to, what) in taken.filter(|(to, _)| !here.starts_with(to)) {
            graph.add_edge(i, nth(&to).unwrap(), what);
        }
    }
    assert!(graph.edge_count() > 200, "the house was not read: {} arrows", graph.edge_count());
    let name = |i: &usize| modules[*i].join("::");
    let circles: Vec<String> = tarjan_scc(&graph)
        .into_iter()
        .filter(|c| c.len() > 1)
        .map(|c| {
            let arrows = graph.all_edges().filter(|(a, b, _)| c.contains(a) && c.contains(b));
            arrows.map(|(a, b, what)| format!("{} -> {}::{what}", name(&a), name(&b))).collect::<Vec<_>>().join(", ")
        })
        .collect();
    assert!(circles.is_empty(), "{} circles:\n{}", circles.len(), circles.join("\n"));
}
