"""Make an account for a studio that others can reach."""

import getpass
import sys

from django.contrib.auth import get_user_model
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser


class Command(BaseCommand):
    help = "Makes an account, or gives one that is there another password. Asks for the password."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")
        parser.add_argument("--password-stdin", action="store_true", help="read it from a pipe")

    def handle(self, *args: object, name: str, password_stdin: bool, **options: object) -> None:
        people = get_user_model()
        user = people.objects.filter(username=name).first() or people(username=name)
        password = sys.stdin.readline().rstrip("\n") if password_stdin else _asked()
        try:
            user.full_clean(exclude=["password"])
            validate_password(password, user)
        except ValidationError as wrong:
            raise CommandError(" ".join(wrong.messages)) from None
        user.set_password(password)
        user.save()
        self.stdout.write(f"{name} can log in.")


def _asked() -> str:
    password = getpass.getpass("Password: ")
    if getpass.getpass("Again: ") != password:
        raise CommandError("These were two different passwords.")
    return password
