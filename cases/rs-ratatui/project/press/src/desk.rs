//! The foreman's desk.

use ratatui::backend::Backend;
use ratatui::layout::{Constraint, Layout, Margin, Rect};
use ratatui::text::Line;
use ratatui::widgets::{Block, BorderType, Borders, Paragraph, Scrollbar, ScrollbarState};
use ratatui::Frame;

/// What the desk shows.
pub struct Desk {
    pub hour: u16,
    pub crates: u16,
    pub notes: Vec<String>,
}

/// Draws the whole desk.
pub fn draw<B: Backend>(frame: &mut Frame<'_, B>, desk: &Desk) {
    let parts = Layout::default().constraints([Constraint::Length(3), Constraint::Min(1)]).split(frame.size());
    head(frame, parts[0], desk);
    body(frame, parts[1], desk);
}

/// Draws the hour and the crates that wait.
pub fn head<B: Backend>(frame: &mut Frame<'_, B>, area: Rect, desk: &Desk) {
    let inner = area.inner(&Margin { vertical: 1, horizontal: 2 });
    frame.render_widget(Paragraph::new(format!("{} h, {} crates", desk.hour, desk.crates)), inner);
}

/// Draws the notes with a scroll bar.
pub fn body<B: Backend>(frame: &mut Frame<'_, B>, area: Rect, desk: &Desk) {
    let lines: Vec<Line> = desk.notes.iter().map(|note| Line::from(note.as_str())).collect();
    frame.render_widget(Paragraph::new(lines), area.inner(&Margin { vertical: 0, horizontal: 1 }));
    let mut state = ScrollbarState::default().content_length(desk.crates).position(desk.hour);
    frame.render_stateful_widget(Scrollbar::default().track_symbol(Some("|")), area, &mut state);
}

/// Draws a box around what somebody has to look at.
pub fn alarm<B: Backend>(frame: &mut Frame<'_, B>, area: Rect) {
    let block = Block::default().borders(Borders::ALL).border_type(BorderType::Double);
    frame.render_widget(block, area.inner(&Margin { vertical: 2, horizontal: 4 }));
}

/// How far the bar has moved after some crates more.
pub fn moved(state: ScrollbarState, crates: u16) -> ScrollbarState {
    state.viewport_content_length(crates)
}
