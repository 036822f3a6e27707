use face::*;
use ratatui::buffer::Buffer;
use ratatui::layout::Rect;
use ratatui::style::{Color, Modifier};

fn area(width: u16, height: u16) -> Rect {
    Rect::new(0, 0, width, height)
}

#[test]
fn the_last_column_takes_what_is_left() {
    let columns = columns(area(40, 2));
    assert_eq!(columns[2], Rect::new(16, 0, 24, 2));
}

#[test]
fn the_columns_fill_the_face() {
    let widths: u16 = columns(area(30, 2)).iter().map(|column| column.width).sum();
    assert_eq!(widths, 30);
}

#[test]
fn the_lower_row_takes_what_is_left() {
    assert_eq!(rows(area(10, 12))[1].height, 11);
}

#[test]
fn halves_are_even() {
    let halves = halves(area(41, 1));
    assert_eq!((halves[0].width, halves[1].width), (21, 20));
}

#[test]
fn the_clock_has_a_third() {
    let parts = clock(area(20, 1));
    assert_eq!((parts[0].width, parts[1].width), (7, 13));
}

#[test]
fn narrow_columns_stay() {
    assert_eq!(columns(area(24, 1))[1], Rect::new(8, 0, 8, 1));
}

#[test]
fn the_chosen_tab_has_no_modifier() {
    let buffer = tabs(area(24, 1), 0);
    assert_eq!(buffer.get(1, 0).style().add_modifier, Modifier::empty());
}

#[test]
fn tabs_are_named() {
    assert_eq!(tabs(area(24, 1), 9), Buffer::with_lines(vec![" one │ two │ three      "]));
}

#[test]
fn a_choice_past_the_end_marks_nobody() {
    let (buffer, _) = waiting(area(12, 3), &["Ada", "Ben"], 7);
    assert_eq!(buffer, Buffer::with_lines(vec!["  Ada       ", "  Ben       ", "            "]));
}

#[test]
fn a_choice_past_the_end_is_kept() {
    let (_, state) = waiting(area(12, 3), &["Ada", "Ben"], 7);
    assert_eq!(state.selected(), Some(7));
}

#[test]
fn nobody_waits() {
    let (_, state) = waiting(area(12, 3), &[], 2);
    assert_eq!(state.selected(), Some(2));
}

#[test]
fn the_weight_is_green() {
    assert_eq!(weight(12.5).spans[0].style.fg, Some(Color::Green));
}

#[test]
fn the_weight_is_rounded() {
    assert_eq!(weight(12.25).spans[0].content, "12.3 kg");
}

#[test]
fn a_notice_is_framed() {
    let expected = vec!["┌notice────┐", "│closed    │", "└──────────┘"];
    assert_eq!(notice(area(12, 3), "closed"), Buffer::with_lines(expected));
}

#[test]
fn a_long_notice_is_wrapped() {
    let expected = vec!["┌notice────┐", "│the press │", "│is closed │", "└──────────┘"];
    assert_eq!(notice(area(12, 4), "the press is closed"), Buffer::with_lines(expected));
}

#[test]
fn a_hard_space_keeps_words_together() {
    let expected = vec!["┌notice────┐", "│no press  │", "│at\u{a0}9 h    │", "└──────────┘"];
    assert_eq!(notice(area(12, 4), "no press at\u{a0}9 h"), Buffer::with_lines(expected));
}

#[test]
fn a_notice_without_width() {
    assert_eq!(notice(area(2, 3), "closed"), Buffer::with_lines(vec!["┌┐", "││", "└┘"]));
}

#[test]
fn a_wide_sign_is_cut() {
    let expected = vec!["┌notice┐", "│秤秤秤│", "│秤    │", "└──────┘"];
    assert_eq!(notice(area(8, 4), "秤秤秤秤"), Buffer::with_lines(expected));
}
