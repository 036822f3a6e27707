//! Tables of weights and payments.

use ratatui::backend::Backend;
use ratatui::layout::{Constraint, Rect};
use ratatui::widgets::{Cell, Row, Table};
use ratatui::Frame;

/// What one grower brought.
pub struct Weight {
    pub grower: String,
    pub kilos: u64,
}

/// The table of weights.
pub fn weights(weights: &[Weight]) -> Table<'_> {
    let rows = weights.iter().map(|w| Row::new(vec![Cell::from(w.grower.as_str()), Cell::from(w.kilos.to_string())]));
    Table::new(rows).widths(&[Constraint::Length(12), Constraint::Length(6)])
}

/// The table of payments.
pub fn payments(weights: &[Weight], price: f64) -> Table<'_> {
    let rows = weights.iter().map(move |w| Row::new(vec![w.grower.clone(), format!("{:.2}", w.kilos as f64 * price)]));
    Table::new(rows)
}

/// The table before anything is weighed.
pub fn nothing<'a>() -> Table<'a> {
    Table::new(Vec::<Row>::new())
}

/// Draws the weights.
pub fn draw<B: Backend>(frame: &mut Frame<'_, B>, area: Rect, list: &[Weight]) {
    frame.render_widget(weights(list), area);
}

/// Draws the payments.
pub fn pay<B: Backend>(frame: &mut Frame<'_, B>, area: Rect, list: &[Weight]) {
    frame.render_widget(payments(list, 0.24), area);
}
