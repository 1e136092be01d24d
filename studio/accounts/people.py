"""Who may use a studio that others can reach: Django's own accounts."""

from django.contrib.auth import get_user_model


def accounts_there() -> bool:
    """Whether anybody could log in."""
    return bool(get_user_model().objects.filter(is_active=True).exists())
