//! What lies in the cellar: barrels by row, drawn as lists.

use ratatui::layout::Corner;
use ratatui::prelude::*;
use ratatui::text::Spans;
use ratatui::widgets::canvas::Canvas;
use ratatui::widgets::{Block, List, ListItem};

/// A barrel with what is in it.
pub struct Barrel {
    pub number: u16,
    pub juice: String,
    pub litres: f64,
}

/// One line for each barrel.
pub fn lines(barrels: &[Barrel]) -> Vec<Spans<'_>> {
    barrels
        .iter()
        .map(|barrel| Spans::from(vec![Span::raw(barrel.juice.as_str()), Span::raw(" l")]))
        .collect()
}

/// The empty line between two rows.
pub fn gap<'a>() -> Spans<'a> {
    Spans::default()
}

/// The list of barrels, the newest at the bottom.
pub fn list(barrels: &[Barrel]) -> List<'_> {
    let items: Vec<ListItem> = barrels.iter().map(|barrel| ListItem::new(barrel.juice.as_str())).collect();
    List::new(items).block(Block::default().title("cellar")).start_corner(Corner::BottomLeft)
}

/// How the terminal of the cellar is set up.
pub fn terminal<B: Backend>(backend: B) -> std::io::Result<Terminal<B>> {
    Terminal::with_options(backend, TerminalOptions { viewport: Viewport::Inline(8) })
}

/// A map of the cellar in dots.
pub fn map() -> Canvas<'static, fn(&mut ratatui::widgets::canvas::Context<'_>)> {
    Canvas::default().marker(Marker::Dot)
}
