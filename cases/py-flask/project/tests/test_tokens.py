def test_letter_has_a_token():
    from mill.tokens import letter

    assert letter("Ida").count(b".") == 2


def test_token_is_plain():
    from mill.tokens import plain

    assert plain("Ida").count(".") == 1
