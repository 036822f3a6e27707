//! What the press house knows of its must.

pub mod cellar;
pub mod sugar;
