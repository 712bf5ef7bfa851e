//! The API through its real router, over a real MariaDB.

mod bottom_end;
mod building;
mod calculators;
mod changes;
mod families;
mod files;
mod fitting;
mod floor;
mod gauges;
mod house;
mod live;
mod measuring;
mod orders;
mod parts;
mod refusals;
mod shells;
mod shop;
mod signing;
mod signing_in;
mod trays;
