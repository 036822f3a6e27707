//! The face of the scales: what growers see while they wait.

use ratatui::buffer::Buffer;
use ratatui::layout::{Constraint, Direction, Layout, Rect};
use ratatui::style::{Color, Style};
use ratatui::text::Line;
use ratatui::widgets::{Block, Borders, List, ListItem, ListState, Paragraph, StatefulWidget, Tabs, Widget, Wrap};

/// Three columns of eight for the scales.
pub fn columns(area: Rect) -> Vec<Rect> {
    let eight = Constraint::Length(8);
    Layout::default().direction(Direction::Horizontal).constraints([eight, eight, eight]).split(area).to_vec()
}

/// A head of one line over what is weighed.
pub fn rows(area: Rect) -> Vec<Rect> {
    Layout::default().constraints([Constraint::Length(1), Constraint::Length(4)]).split(area).to_vec()
}

/// Two halves, for two scales.
pub fn halves(area: Rect) -> Vec<Rect> {
    let half = Constraint::Percentage(50);
    Layout::default().direction(Direction::Horizontal).constraints([half, half]).split(area).to_vec()
}

/// A third for the clock, the rest for the weight.
pub fn clock(area: Rect) -> Vec<Rect> {
    let parts = [Constraint::Ratio(1, 3), Constraint::Min(4)];
    Layout::default().direction(Direction::Horizontal).constraints(parts).split(area).to_vec()
}

/// The tabs of the three scales.
pub fn tabs(area: Rect, chosen: usize) -> Buffer {
    let mut buffer = Buffer::empty(area);
    Tabs::new(vec!["one", "two", "three"]).select(chosen).render(area, &mut buffer);
    buffer
}

/// The list of who waits.
pub fn waiting(area: Rect, names: &[&str], chosen: usize) -> (Buffer, ListState) {
    let mut buffer = Buffer::empty(area);
    let mut state = ListState::default();
    state.select(Some(chosen));
    let items: Vec<ListItem> = names.iter().map(|name| ListItem::new(*name)).collect();
    StatefulWidget::render(List::new(items).highlight_symbol("> "), area, &mut buffer, &mut state);
    (buffer, state)
}

/// The line of a weight, green.
pub fn weight(kilos: f64) -> Line<'static> {
    Line::styled(format!("{kilos:.1} kg"), Style::default().fg(Color::Green))
}

/// A framed notice.
pub fn notice(area: Rect, words: &str) -> Buffer {
    let mut buffer = Buffer::empty(area);
    let block = Block::default().title("notice").borders(Borders::ALL);
    Paragraph::new(words).wrap(Wrap { trim: true }).block(block).render(area, &mut buffer);
    buffer
}
