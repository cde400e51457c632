"""The application's settings as tests use them: the demo's world, and a key that is no secret."""

import os

os.environ.setdefault("INSERTUM_DEMO", "1")
os.environ.setdefault("INSERTUM_SECRET_KEY", "tests-only-" + "x" * 50)

from insertum.site.settings import *  # noqa: E402, F403

# A password is slow to check on purpose; tests sign in hundreds of times. Those of released databases are checked as ever.
PASSWORD_HASHERS = [f"django.contrib.auth.hashers.{kind}PasswordHasher" for kind in ("MD5", "PBKDF2")]
