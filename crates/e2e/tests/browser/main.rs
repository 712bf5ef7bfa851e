//! The interface in headless Chromium, over a real server and a real MariaDB.

mod access;
mod bottom_end;
mod crash;
mod floor;
mod gauges;
mod measuring;
mod sheet;
mod shells;
mod together;
