"""Every documented setting does what it says, and every one there is is documented."""

import json
import os
import re
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
README = (ROOT / "README.md").read_text()
TABLE = README[README.index("### Settings of `start`") :]
TABLE = TABLE[: TABLE.index("\n\n", TABLE.index("| --- |"))]
STEMS = {"…_ENDPOINT": "BATHYPHON_S3_ENDPOINT", "…_KEY": "BATHYPHON_S3_KEY",
         "…_SECRET": "BATHYPHON_S3_SECRET"}  # fmt: skip
DOCUMENTED = {
    STEMS.get(name, name)
    for row in TABLE.splitlines()[2:]
    for name in re.findall(r"`((?:BATHYPHON|DATABASE|…)_[A-Z0-9_]+)`", row.split("|")[1])
}
SECRET = "kJ8s-2mQp0vXz71bTtYeRw93LhNcA5dG"
ASK = """
import json, sys
from django.conf import settings
settings.INSTALLED_APPS
print(json.dumps(eval(sys.argv[1])))
"""


def told(question, **settings):
    """What the settings say with these in the environment."""
    env = {k: v for k, v in os.environ.items() if not k.startswith(("BATHYPHON", "DJANGO"))}
    env |= {"PYTHONPATH": str(ROOT / "src"), "BATHYPHON_SECRET_KEY": SECRET,
            "DJANGO_SETTINGS_MODULE": "bathyphon.server.settings.local"} | settings  # fmt: skip
    done = subprocess.run(
        [sys.executable, "-c", ASK, question], env=env, capture_output=True, text=True, check=False
    )
    if done.returncode:
        return done.stderr.strip().splitlines()[-1]
    return json.loads(done.stdout)


S3 = {"BATHYPHON_S3_BUCKET": "reels", "BATHYPHON_S3_ENDPOINT": "http://store.example:9000",
      "BATHYPHON_S3_KEY": "the-key", "BATHYPHON_S3_SECRET": "the-secret"}  # fmt: skip
STORE = "settings.STORAGES['blobs']['OPTIONS']"
CASES = [
    ("settings.SECRET_KEY", {"BATHYPHON_SECRET_KEY": SECRET[::-1]}, SECRET[::-1]),
    ("settings.ALLOWED_HOSTS", {"BATHYPHON_HOSTS": "a.example,.b.example"},
     ["a.example", ".b.example"]),
    ("settings.ALLOWED_HOSTS", {}, ["127.0.0.1", "localhost"]),
    ("settings.CSRF_TRUSTED_ORIGINS", {"BATHYPHON_ORIGINS": "https://a.example"},
     ["https://a.example"]),
    ("[settings.SESSION_COOKIE_SECURE, settings.CSRF_COOKIE_SECURE, settings.SECURE_HSTS_SECONDS]",
     {"BATHYPHON_HTTPS": "1"}, [True, True, 365 * 24 * 3600]),
    ("[settings.SESSION_COOKIE_SECURE, settings.SECURE_HSTS_SECONDS]", {}, [False, 0]),
    ("str(settings.DATA)", {"BATHYPHON_DATA": "/somewhere"}, "/somewhere"),
    ("settings.BATHYPHON_LARGEST_UPLOAD", {"BATHYPHON_LARGEST_UPLOAD": "12345"}, 12345),
    ("settings.BATHYPHON_ACCOUNT_LIMIT", {"BATHYPHON_ACCOUNT_LIMIT": "999"}, 999),
    ("settings.BATHYPHON_MEMORY", {"BATHYPHON_MEMORY": "1000000"}, 1000000),
    ("settings.BATHYPHON_MEMORY", {}, 2 * 2**30),
    ("settings.BATHYPHON_DECODE_SECONDS", {"BATHYPHON_DECODE_SECONDS": "9"}, 9),
    ("settings.BATHYPHON_DECODE_MEMORY", {"BATHYPHON_DECODE_MEMORY": "9"}, 9),
    ("settings.BATHYPHON_PREPARED_FILE", {"BATHYPHON_PREPARED_FILE": "9"}, 9),
    ("settings.LOGGING['root']['level']", {"BATHYPHON_LOG": "INFO"}, "INFO"),
    ("settings.DEBUG", {"BATHYPHON_DEBUG": "1"}, True),
    ("settings.DEBUG", {}, False),
    (f"[{STORE}['bucket_name'], {STORE}['endpoint_url'], {STORE}['access_key'], "
     f"{STORE}['secret_key']]", S3, ["reels", "http://store.example:9000", "the-key",
                                     "the-secret"]),
    ("settings.DATABASES['default']['HOST']",
     {"DATABASE_URL": "postgresql://u:p@db.example:5433/reels"}, "db.example"),
]  # fmt: skip
WRONG = [
    ({"BATHYPHON_SECRET_KEY": "short"}, "at least 32 random characters"),
    ({"BATHYPHON_SECRET_KEY": "a" * 40, "BATHYPHON_HOSTS": "a.example"}, "must be a random one"),
    ({"BATHYPHON_DEBUG": "1", "BATHYPHON_HOSTS": "a.example"}, "must be off"),
]
# Of the launcher itself; what they do is tried with a server that runs (test_kept_running.py).
OF_THE_LAUNCHER = {"BATHYPHON_BIND", "BATHYPHON_ACCOUNT", "BATHYPHON_PROXIES"}


@pytest.mark.parametrize(("question", "given", "found"), CASES)
def test_a_setting_does_what_it_says(question, given, found):
    assert told(question, **given) == found


@pytest.mark.parametrize(("given", "said"), WRONG)
def test_a_dangerous_one_is_refused_in_a_sentence(given, said):
    assert said in told("1", **given)


def test_every_documented_setting_is_tried():
    tried = {name for _, given, _ in CASES for name in given} | OF_THE_LAUNCHER
    assert tried == DOCUMENTED


def test_every_setting_there_is_is_documented():
    sources = [*(ROOT / "src" / "bathyphon" / "server" / "settings").glob("*.py"),
               *(ROOT / "tools" / "launch").glob("*.py")]  # fmt: skip
    read = re.compile(r"""(?:ENV\.\w+|get|environ\[|in)\W+["']?(BATHYPHON_[A-Z0-9_]+)["']""")
    found = {name for path in sources for name in read.findall(path.read_text())}
    of_tests = {"BATHYPHON_BROWSER_DATABASE_URL"}
    assert found - of_tests <= DOCUMENTED


@pytest.mark.parametrize(
    ("proxies", "flags"),
    [
        ("", ["--no-proxy-headers"]),
        ("10.0.0.1,10.0.0.2", ["--forwarded-allow-ips", "10.0.0.1,10.0.0.2"]),
    ],
)
def test_only_named_proxies_are_believed(monkeypatch, proxies, flags):
    sys.path.insert(0, str(ROOT / "tools" / "launch"))
    import serve

    monkeypatch.setenv("BATHYPHON_PROXIES", proxies)
    command = serve._server_command("127.0.0.1", 8400)
    at = command.index(flags[0])
    assert command[at : at + len(flags)] == flags
