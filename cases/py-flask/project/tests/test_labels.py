from mill import labels


def test_label_is_bold():
    assert labels.bold("<rye>") == "<b>&lt;rye&gt;</b>"


def test_sheet():
    assert labels.sheet(["rye"]) == "<p>rye</p>"
