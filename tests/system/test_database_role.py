"""The application owns its database, and can do nothing else with the machine of the server."""

import os
import sys
from pathlib import Path

import psycopg
import pytest

sys.path.insert(0, str(Path(__file__).parents[2] / "tools" / "launch"))
database = pytest.importorskip("database")


@pytest.fixture
def connection():
    with psycopg.connect(os.environ["DATABASE_URL"].rsplit("/", 1)[0] + "/postgres") as found:
        found.autocommit = True
        yield found


@pytest.fixture(scope="module")
def plain():
    """The launcher's own server, as the application signs in."""
    found = database.Database()
    if (
        not database.DATA.exists()
        or str(database._running_port()) not in os.environ["DATABASE_URL"]
    ):
        pytest.skip("another PostgreSQL is used than the launcher's")
    found.start()
    return found


@pytest.mark.parametrize(
    "attack",
    [
        "copy (select 1) to program 'touch /tmp/taken'",
        "create temp table t (x text); copy t from program 'id'",
        "create temp table t (x text); copy t from '/etc/passwd'",
        "select pg_read_file('/etc/passwd')",
        "select lo_import('/etc/passwd')",
        "create role taken superuser",
        "alter role bathyphon_tests superuser",
        "alter system set log_statement = 'all'",
        "create extension if not exists plpython3u",
    ],
)
def test_who_owns_a_database_does_not_own_the_server(connection, attack):
    with pytest.raises((psycopg.errors.InsufficientPrivilege, psycopg.errors.UndefinedFile,
                        psycopg.errors.FeatureNotSupported)):  # fmt: skip
        connection.execute(attack)


def test_the_role_of_the_application_makes_no_databases(plain):
    plain.ensure("bathyphon_role_test")
    try:
        with psycopg.connect(plain.url("bathyphon_role_test"), autocommit=True) as found:
            found.execute("create table mine (x int); insert into mine values (1)")
            row = found.execute(
                "select rolsuper, rolcreatedb, rolcreaterole, rolreplication, rolbypassrls "
                "from pg_roles where rolname = current_user"
            ).fetchone()
            assert row == (False,) * 5
            with pytest.raises(psycopg.errors.InsufficientPrivilege):
                found.execute("create database taken")
    finally:
        plain._ask("drop database bathyphon_role_test")


def test_a_database_of_an_earlier_version_is_handed_over(plain):
    """There one role, which could do anything, owned all of it."""
    name = "bathyphon_old_test"
    plain._ask(f"create database {name}")
    try:
        plain._ask(
            "create table reels (id serial primary key, name text); insert into reels(name) "
            "values ('one'); create type state as enum ('on', 'off'); create view names as "
            "select name from reels; create function f() returns int language sql as 'select 1'; "
            "create procedure p() language sql as 'select 1'",
            name,
        )
        plain.ensure(name)
        plain.ensure(name)
        with psycopg.connect(plain.url(name), autocommit=True) as found:
            assert found.execute("select name from names").fetchall() == [("one",)]
            found.execute(
                "alter table reels add state state; insert into reels(name, state) "
                "values ('two', 'on'); alter type state add value 'half'; drop view names; "
                "drop function f(); drop procedure p(); create table more (x int)"
            )
    finally:
        plain._ask(f"drop database {name}")
