//! The program as one starts it.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "tests")]

use std::{
    io::{BufRead, BufReader, Read, Write},
    net::TcpStream,
    path::Path,
    process::{Child, Command, Output, Stdio},
};

fn program() -> Command {
    let mut c = Command::new(env!("CARGO_BIN_EXE_cerealis"));
    c.env_remove("CEREALIS_DATA").env_remove("CEREALIS_LISTEN").env("CEREALIS_LOG", "error");
    c
}

fn ended(args: &[&str]) -> Output {
    program().args(args).output().unwrap()
}

/// A program that runs until it is dropped.
struct Running {
    child: Child,
    address: String,
}

impl Running {
    fn start(args: &[&str]) -> Self {
        let mut child =
            program().args(args).args(["--listen", "127.0.0.1:0"]).stdout(Stdio::piped()).stderr(Stdio::null()).spawn().unwrap();
        let mut first = String::new();
        BufReader::new(child.stdout.take().unwrap()).read_line(&mut first).unwrap();
        let address = first.trim().trim_start_matches("Cerealis is at http://").trim_end_matches('/').to_owned();
        Self { child, address }
    }

    fn get(&self, path: &str, host: &str) -> String {
        let mut stream = TcpStream::connect(&self.address).unwrap();
        write!(stream, "GET {path} HTTP/1.1\r\nHost: {host}\r\nConnection: close\r\n\r\n").unwrap();
        let mut answer = String::new();
        stream.read_to_string(&mut answer).unwrap();
        answer
    }

    fn page(&self, path: &str) -> String {
        let answer = self.get(path, &self.address);
        assert!(answer.starts_with("HTTP/1.1 200"), "{path}: {answer}");
        answer
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

#[test]
fn the_demo_kitchen_has_four_breads_three_bakes_and_one_rising() {
    let demo = Running::start(&["demo", "--clock", "2026-11-06T16:40:00+00:00,1"]);
    let today = demo.page("/");
    for words in ["Skerry Light", "Watch rolls", "Skerry loaf", "Lantern plait", "Boat-morning tin", "Fri 6 Nov"] {
        assert!(today.contains(words), "{words}");
    }
    assert_eq!(demo.page("/logbook").matches("class=\"bread d\"").count(), 4);
    assert!(demo.page("/health").contains("200"));
}

#[test]
fn a_household_is_there_again_after_the_end() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("bread");
    let data = data.to_str().unwrap();
    assert!(Running::start(&["serve", "--data", data]).page("/").contains("Three things first"));
    assert!(Path::new(data).join("household.db").exists());
    assert!(Running::start(&["serve", "--data", data]).page("/logbook").contains("No bakes yet."));
}

#[test]
fn a_new_household_keeps_the_machines_time_zone() {
    let folder = tempfile::tempdir().unwrap();
    let child = program()
        .args(["serve", "--data", folder.path().to_str().unwrap(), "--listen", "127.0.0.1:0"])
        .env("TZ", "Europe/Oslo")
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .spawn()
        .unwrap();
    let mut running = Running { child, address: String::new() };
    let mut first = String::new();
    BufReader::new(running.child.stdout.take().unwrap()).read_line(&mut first).unwrap();
    running.address = first.trim().trim_start_matches("Cerealis is at http://").trim_end_matches('/').to_owned();
    assert!(running.page("/api/v1/kitchen").contains("Europe/Oslo"));
}

#[test]
fn the_demo_leaves_a_household_alone() {
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join("household.db"), b"somebody's bread").unwrap();
    let end = ended(&["demo", "--data", folder.path().to_str().unwrap(), "--listen", "127.0.0.1:0"]);
    assert_eq!(end.status.code(), Some(2));
    assert!(String::from_utf8_lossy(&end.stderr).contains("does not touch it"));
    assert_eq!(std::fs::read(folder.path().join("household.db")).unwrap(), b"somebody's bread");
}

#[test]
fn it_listens_to_nobody_but_this_machine() {
    for address in ["0.0.0.0:0", "[::]:0", "192.0.2.1:8080"] {
        let end = ended(&["demo", "--listen", address]);
        assert_eq!(end.status.code(), Some(2), "{address}");
        assert!(String::from_utf8_lossy(&end.stderr).contains("this machine only"), "{address}");
    }
}

#[test]
fn a_wrong_start_is_told_in_a_sentence() {
    for (args, words) in [
        (vec!["demo", "--listen", "somewhere"], "no address to listen on"),
        (vec!["demo", "--clock", "tea time"], "--clock"),
        (vec!["demo", "--clock", "2026-11-06T16:40:00+00:00,0.5"], "--clock"),
        (vec!["serve"], "--data"),
        (vec!["bake"], "bake"),
    ] {
        let end = ended(&args);
        assert_eq!(end.status.code(), Some(2), "{args:?}");
        let said = String::from_utf8_lossy(&end.stderr).into_owned();
        assert!(said.contains(words) && !said.contains("panicked"), "{args:?}: {said}");
    }
}

#[test]
fn a_stranger_at_the_door_is_refused() {
    let demo = Running::start(&["demo"]);
    assert!(demo.get("/", "bread.example").starts_with("HTTP/1.1 403"));
    assert!(demo.get("/", "localhost").starts_with("HTTP/1.1 200"));
    let known = Running::start(&["demo", "--host", "bread.example"]);
    assert!(known.get("/", "bread.example").starts_with("HTTP/1.1 200"));
}

#[test]
fn help_names_what_there_is() {
    let said = String::from_utf8(ended(&["--help"]).stdout).unwrap();
    assert!(said.contains("serve") && said.contains("demo"));
    assert!(String::from_utf8(ended(&["--version"]).stdout).unwrap().starts_with("cerealis "));
}

#[test]
fn a_folder_belongs_to_one_program_at_a_time() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().to_str().unwrap().to_owned();
    let first = Running::start(&["serve", "--data", &data]);
    let second = ended(&["serve", "--data", &data, "--listen", "127.0.0.1:0"]);
    let said = String::from_utf8(second.stderr).unwrap();
    assert!(second.status.code() == Some(2) && said.contains("open in another Cerealis"), "{said}");
    first.page("/");
    // However it ends, the folder is free again.
    drop(first);
    Running::start(&["serve", "--data", &data]).page("/");
}

#[test]
fn a_port_that_is_taken_leaves_no_household_behind() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("bread");
    let taken = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let address = taken.local_addr().unwrap().to_string();
    let a = ended(&["serve", "--data", data.to_str().unwrap(), "--listen", &address]);
    let said = String::from_utf8(a.stderr).unwrap();
    assert!(a.status.code() == Some(2) && said.contains("--listen"), "{said}");
    assert!(!data.exists(), "the household is made once the port is had");
}

#[test]
fn a_packed_page_comes_whole_and_at_once() {
    let demo = Running::start(&["demo", "--clock", "2026-11-06T16:40:00+00:00,1"]);
    let mut stream = TcpStream::connect(&demo.address).unwrap();
    // As a browser asks: one connection, packed, page after page.
    for _ in 0..3 {
        write!(stream, "GET /logbook HTTP/1.1\r\nHost: {}\r\nAccept-Encoding: gzip\r\n\r\n", demo.address).unwrap();
        let mut reader = BufReader::new(&stream);
        let mut head = String::new();
        while !head.ends_with("\r\n\r\n") {
            assert!(reader.read_line(&mut head).unwrap() > 0, "{head}");
        }
        let head = head.to_ascii_lowercase();
        assert!(head.contains("content-encoding: gzip") && !head.contains("chunked"), "{head}");
        let length = head.lines().find_map(|l| l.strip_prefix("content-length: ")).unwrap().trim().parse().unwrap();
        let mut body = vec![0; length];
        reader.read_exact(&mut body).unwrap();
        assert_eq!(body[..2], [0x1f, 0x8b], "a gzip");
    }
}

/// What a command said on standard output; it must have gone well.
fn said(args: &[&str]) -> String {
    let out = ended(args);
    assert!(out.status.success(), "{args:?}: {}", String::from_utf8_lossy(&out.stderr));
    String::from_utf8(out.stdout).unwrap()
}

/// Why a command ended early, in its one line.
fn refused(args: &[&str]) -> String {
    let out = ended(args);
    let why = String::from_utf8(out.stderr).unwrap();
    assert_eq!((out.status.code(), why.lines().count()), (Some(1), 1), "{args:?}: {why}");
    why
}

#[test]
fn a_household_is_copied_while_it_is_served_and_moves_house() {
    let folder = tempfile::tempdir().unwrap();
    let at = |name: &str| folder.path().join(name).to_str().unwrap().to_owned();
    let (old, new, file, copy) = (at("old"), at("new"), at("household.json"), at("copy.db"));
    let demo = Running::start(&["demo", "--data", &old, "--clock", "2026-11-06T16:40:00+00:00,1"]);
    assert!(said(&["backup", &copy, "--data", &old]).contains("4 formulas, 4 bakes with 47 entries, 2 jars"));
    assert!(said(&["export", &file, "--data", &old]).contains("4 formulas, 4 bakes, 2 jars"));
    assert!(refused(&["backup", &copy, "--data", &old]).contains("is left as it is"), "never over a file");
    assert!(refused(&["export", &file, "--data", &old]).contains("is left as it is"));
    assert!(refused(&["restore", &copy, "--data", &old]).contains("nothing is written over"), "never over a household");
    assert_eq!(ended(&["import", &file, "--data", &old]).status.code(), Some(2), "what is served is told through its page");
    drop(demo);

    assert!(said(&["restore", &copy, "--data", &new]).contains("4 formulas"));
    let same = said(&["import", &file, "--data", &new]);
    assert!(same.starts_with("It brought nothing new") && !same.contains("not taken in"), "{same}");

    let third = at("third");
    let looked = said(&["import", &file, "--data", &third, "--dry-run"]);
    assert!(looked.starts_with("It would bring the kitchen’s figures") && looked.contains("4 bakes, 47 entries"), "{looked}");
    assert!(said(&["import", &file, "--data", &third]).starts_with("It brought the kitchen’s figures"));
    for data in [&new, &third] {
        let moved = Running::start(&["serve", "--data", data]);
        assert!(moved.page("/logbook").contains("Skerry loaf") && moved.page("/kitchen").contains("Skerry Light"), "{data}");
    }
}

#[test]
fn what_cannot_be_kept_or_restored_is_said_and_nothing_is_made() {
    let folder = tempfile::tempdir().unwrap();
    let at = |name: &str| folder.path().join(name).to_str().unwrap().to_owned();
    let (file, data, list) = (at("file"), at("data"), at("list"));
    std::fs::write(&list, "a list for the boat").unwrap();
    assert!(refused(&["backup", &file, "--data", &data]).contains("There is no household in"));
    assert!(refused(&["export", &file, "--data", &data]).contains("There is no household in"));
    assert!(refused(&["restore", &file, "--data", &data]).contains("There is no file"));
    assert!(refused(&["restore", &list, "--data", &data]).contains("is no household of Cerealis"));
    assert!(refused(&["import", &list, "--data", &data]).contains("is no household of Cerealis"));
    assert!(!Path::new(&file).exists() && !Path::new(&data).join("household.db").exists());
    std::fs::write(&list, r#"{"archive":"cerealis-household","v":99}"#).unwrap();
    assert!(refused(&["import", &list, "--data", &data]).contains("newer Cerealis"));
    std::fs::write(&list, r#"{"archive":"cerealis-household","v":1,"written":"yesterday"}"#).unwrap();
    assert!(refused(&["import", &list, "--data", &data]).contains("cannot be read"));
    assert_eq!(ended(&["backup"]).status.code(), Some(2));
}

#[test]
fn the_calls_that_need_no_household_are_served_without_one() {
    let calls = Running::start(&["serve", "--compute-only"]);
    assert!(calls.page("/health").contains("ok"));
    assert!(calls.page("/api/v1/pantry?q=rye").contains("rye"));
    for path in ["/", "/logbook", "/api/v1/bakes", "/api/v1/kitchen", "/api/v1/export"] {
        assert!(calls.get(path, &calls.address).starts_with("HTTP/1.1 404"), "{path}");
    }
    assert_eq!(ended(&["serve"]).status.code(), Some(2), "a household needs its folder");
}
