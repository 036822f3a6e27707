//! The yard: what waits there, and for how long.

use ratatui::prelude::*;

/// The line of a cart, red where it waits too long.
pub fn cart(name: &str, hours: u16) -> Line<'_> {
    let mut line = Line::from(name);
    if hours > 4 {
        line.patch_style(Style::default().fg(Color::Red));
    }
    line
}

/// The sign at the gate, without any style of before.
pub fn sign(text: &str) -> Span<'_> {
    let mut span = Span::styled(text, Style::default().fg(Color::Yellow));
    span.reset_style();
    span
}

/// The hour at which the yard closes.
pub fn closing(hour: u16) -> u16 {
    let latest = 20;
    hour.max(18)
}
