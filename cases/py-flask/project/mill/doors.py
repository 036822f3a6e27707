"""Who may come in, and what the door tells."""
from werkzeug.security import check_password_hash, generate_password_hash, safe_str_cmp


def same(a, b):
    return safe_str_cmp(a, b)


def key(word):
    return generate_password_hash(word)
