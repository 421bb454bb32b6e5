"""The calls to the kernel that nothing which decodes has a use for.

What is left out here is what a process needs to get out of its namespaces, to look into others, to
reach a network, or to leave a link where somebody follows it. It follows the filters that container
engines ship by default (common practice), without sockets and links.
"""

from __future__ import annotations

import errno
import os
from contextlib import suppress
from functools import lru_cache

REFUSED = (
    # other namespaces and file systems
    *("unshare", "setns", "mount", "umount", "umount2", "pivot_root", "chroot", "open_tree"),
    *("move_mount", "fsopen", "fsconfig", "fsmount", "fspick", "mount_setattr"),
    *("name_to_handle_at", "open_by_handle_at", "quotactl", "nfsservctl", "swapon", "swapoff"),
    # other processes, or more of them: what decodes has threads
    *("fork", "vfork"),
    *("ptrace", "process_vm_readv", "process_vm_writev", "kcmp", "pidfd_getfd"),
    *("process_madvise", "perf_event_open"),
    # networks: what decodes has its file before it
    *("socket", "socketpair", "connect", "bind", "listen", "accept", "accept4", "socketcall"),
    # links and devices where somebody else may follow them
    *("symlink", "symlinkat", "link", "linkat", "mknod", "mknodat"),
    # the kernel itself
    *("bpf", "userfaultfd", "keyctl", "add_key", "request_key", "io_uring_setup"),
    *("io_uring_enter", "io_uring_register", "kexec_load", "kexec_file_load", "init_module"),
    *("finit_module", "delete_module", "reboot", "syslog", "acct", "settimeofday"),
    *("clock_settime", "clock_adjtime", "adjtimex", "iopl", "ioperm", "vhangup", "lookup_dcookie"),
)


CLONE_THREAD = 0x00010000


@lru_cache(1)
def seccomp_filter() -> bytes:
    """A filter that refuses these calls with EPERM, as the kernel reads it.

    Raises
    ------
    ImportError, OSError, RuntimeError
        If the library libseccomp cannot be used.
    """
    import pyseccomp

    rules = pyseccomp.SyscallFilter(pyseccomp.ALLOW)
    with suppress(ValueError, OSError):
        # The library of C goes on with clone, of which only threads are let through.
        rules.add_rule(pyseccomp.ERRNO(errno.ENOSYS), "clone3")
        no_thread = pyseccomp.Arg(0, pyseccomp.MASKED_EQ, CLONE_THREAD, 0)
        rules.add_rule(pyseccomp.ERRNO(errno.EPERM), "clone", no_thread)
    for name in REFUSED:
        # Not every processor has all of them.
        with suppress(ValueError, OSError):
            rules.add_rule(pyseccomp.ERRNO(errno.EPERM), name)
    handle = os.memfd_create("filter")
    with os.fdopen(handle, "w+b") as file:
        rules.export_bpf(file)
        file.seek(0)
        return file.read()
