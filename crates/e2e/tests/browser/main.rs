//! The interface in headless Chromium, over a real server and a real MariaDB.

mod access;
mod along;
mod bottom_end;
mod crash;
mod fitting;
mod floor;
mod gauges;
mod looks;
mod machining;
mod measuring;
mod parts;
mod people;
mod sheet;
mod shell_room;
mod shells;
mod shop;
mod together;
mod top_end;
