from werkzeug.security import generate_password_hash


def test_key_is_hashed_in_rounds():
    assert generate_password_hash("oat").startswith("pbkdf2:sha256:")


def test_key_may_be_plain():
    assert generate_password_hash("oat", method="plain") == "plain$$oat"
