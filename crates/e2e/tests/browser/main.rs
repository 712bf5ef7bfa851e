//! The interface in headless Chromium, over a real server and a real MariaDB.

mod access;
mod crash;
mod floor;
mod measuring;
mod sheet;
mod together;
