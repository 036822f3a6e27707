//! A backend that keeps what is drawn as plain text, for the printer.

use std::io;

use ratatui::backend::{Backend, ClearType};
use ratatui::buffer::Cell;
use ratatui::layout::Rect;

/// Lines of text.
pub struct Plain {
    pub lines: Vec<String>,
    cursor: (u16, u16),
}

impl Backend for Plain {
    fn draw<'a, I>(&mut self, content: I) -> io::Result<()>
    where
        I: Iterator<Item = (u16, u16, &'a Cell)>,
    {
        for (_, y, cell) in content {
            let y = y as usize;
            while self.lines.len() <= y {
                self.lines.push(String::new());
            }
            self.lines[y].push_str(&cell.symbol);
        }
        Ok(())
    }

    fn hide_cursor(&mut self) -> io::Result<()> {
        Ok(())
    }

    fn show_cursor(&mut self) -> io::Result<()> {
        Ok(())
    }

    fn get_cursor(&mut self) -> io::Result<(u16, u16)> {
        Ok(self.cursor)
    }

    fn set_cursor(&mut self, x: u16, y: u16) -> io::Result<()> {
        self.cursor = (x, y);
        Ok(())
    }

    fn clear(&mut self) -> io::Result<()> {
        self.lines.clear();
        Ok(())
    }

    fn clear_region(&mut self, _: ClearType) -> io::Result<()> {
        self.clear()
    }

    fn size(&self) -> io::Result<Rect> {
        Ok(Rect::new(0, 0, 80, 60))
    }

    fn flush(&mut self) -> io::Result<()> {
        Ok(())
    }
}
