def test_same_word():
    from mill.doors import same

    assert same("oat", "oat")


def test_key_is_hashed():
    from mill.doors import key

    assert key("oat").startswith("pbkdf2:sha256")
