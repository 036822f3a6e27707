//! The screens of the press: what is weighed, pressed and paid.

pub mod desk;
pub mod plain;
pub mod tables;
