"""Echo: repeats that go on after the sound has ended, each duller, thinner or crossing sides."""
