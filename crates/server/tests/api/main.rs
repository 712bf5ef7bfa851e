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
mod imports;
mod limits;
mod live;
mod measuring;
mod narrowing;
mod orders;
mod parts;
mod people;
mod refusals;
mod seals;
mod shells;
mod shop;
mod signing;
mod signing_in;
mod trays;
mod washers;
