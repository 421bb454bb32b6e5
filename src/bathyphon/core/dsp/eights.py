"""Eight numbers at once: explicit vectors for compiled loops that depend on their own past.

A recursion along time cannot be spread over time, but lines of a network, sections of a cascade
and both sides of a sound can lie beside each other. The compiler does not find that by itself; with
these it need not. Every operation is the same as on single numbers, in the order that is written,
so results do not depend on the machine's vector width.
"""

from __future__ import annotations

import operator
from typing import Any

import numpy as np
from llvmlite import ir
from numba import extending, njit, types
from numba.core import cgutils
from numba.extending import models, overload, register_model

from bathyphon.core.arrays import Floats

WIDTH = 8
# Operations are typed by the compiler, not by their Python signatures.
intrinsic: Any = extending.intrinsic
Vector = Any
"""Eight numbers, in signatures."""
_VECTOR = ir.VectorType(ir.DoubleType(), WIDTH)
_INDEX = ir.IntType(32)


class EightType(types.Type):
    """The type that compiled code sees."""

    def __init__(self) -> None:
        super().__init__(name="Vector")


eight_type = EightType()


@register_model(EightType)
class _EightModel(models.PrimitiveModel):
    def __init__(self, dmm: Any, fe_type: Any) -> None:
        super().__init__(dmm, fe_type, _VECTOR)  # type: ignore[no-untyped-call]


def _place(context: Any, builder: Any, signature: Any, args: Any) -> Any:
    """Address of eight numbers from an index on."""
    array = context.make_array(signature.args[0])(context, builder, args[0])
    first = builder.gep(array.data, [args[1]])
    return builder.bitcast(first, _VECTOR.as_pointer())


def aligned(count: int) -> Floats:
    """A flat array of zeros that begins where the processor's cache lines do.

    Eight numbers that straddle two of these take twice as long.
    """
    room = np.zeros(count + WIDTH)
    first = (-room.ctypes.data % (8 * WIDTH)) // 8
    return room[first : first + count]


def _named(builder: Any, name: str, operands: int) -> Any:
    signature = ir.FunctionType(_VECTOR, [_VECTOR] * operands)
    module = builder.module
    return cgutils.get_or_insert_function(module, signature, name)  # type: ignore[no-untyped-call]


@intrinsic
def load(typingctx: Any, array: Any, at: Any) -> Any:
    """Eight neighbours of a flat array from a place on."""

    def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
        return builder.load(_place(context, builder, signature, args), align=8)

    return eight_type(array, types.intp), codegen


@intrinsic
def store(typingctx: Any, array: Any, at: Any, value: Any) -> Any:
    """Put eight numbers into a flat array from a place on."""

    def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
        builder.store(args[2], _place(context, builder, signature, args), align=8)
        return context.get_dummy_value()

    return types.void(array, types.intp, eight_type), codegen


@intrinsic
def item(typingctx: Any, array: Any, at: Any) -> Any:
    """One number of a flat array from a place that is not negative."""

    def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
        array = context.make_array(signature.args[0])(context, builder, args[0])
        return builder.load(builder.gep(array.data, [args[1]]))

    return types.float64(array, types.intp), codegen


@intrinsic
def splat(typingctx: Any, value: Any) -> Any:
    """Eight times the same number."""

    def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
        one = builder.insert_element(ir.Constant(_VECTOR, ir.Undefined), args[0], _INDEX(0))
        mask = ir.Constant(ir.VectorType(_INDEX, WIDTH), [0] * WIDTH)
        return builder.shuffle_vector(one, ir.Constant(_VECTOR, ir.Undefined), mask)

    return eight_type(types.float64), codegen


@intrinsic
def vector_of(
    typingctx: Any, a: Any, b: Any, c: Any, d: Any, e: Any, f: Any, g: Any, h: Any
) -> Any:
    """Eight single numbers beside each other."""

    def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
        made = ir.Constant(_VECTOR, ir.Undefined)
        for k in range(WIDTH):
            made = builder.insert_element(made, args[k], _INDEX(k))
        return made

    return eight_type(*[types.float64] * WIDTH), codegen


@intrinsic(prefer_literal=True)
def element(typingctx: Any, value: Any, index: Any) -> Any:
    """One of the eight; the index is a number in the source."""
    at = index.literal_value

    def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
        return builder.extract_element(args[0], _INDEX(at))

    return types.float64(eight_type, index), codegen


def shuffle(*order: int) -> Any:
    """An operation that picks eight of sixteen: from 8 on those of the second operand."""

    @intrinsic
    def apply(typingctx: Any, a: Any, b: Any) -> Any:
        def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
            mask = ir.Constant(ir.VectorType(_INDEX, WIDTH), list(order))
            return builder.shuffle_vector(args[0], args[1], mask)

        return eight_type(eight_type, eight_type), codegen

    return apply


_low_halves = shuffle(0, 8, 2, 10, 4, 12, 6, 14)
_high_halves = shuffle(1, 9, 3, 11, 5, 13, 7, 15)
_even_pairs = shuffle(0, 1, 4, 5, 8, 9, 12, 13)
_odd_pairs = shuffle(2, 3, 6, 7, 10, 11, 14, 15)
Eight = tuple[Vector, Vector, Vector, Vector, Vector, Vector, Vector, Vector]


@njit(cache=True, nogil=True, inline="always")
def transposed(
    a: Vector, b: Vector, c: Vector, d: Vector, e: Vector, f: Vector, g: Vector, h: Vector
) -> Eight:  # pragma: no cover - compiled
    """Eight rows of eight, as eight columns: a stretch of eight lines, moment by moment, or back.

    Loading and storing lines number by number takes three times as long.
    """
    ab, cd = _low_halves(a, b), _low_halves(c, d)
    ef, gh = _low_halves(e, f), _low_halves(g, h)
    ab_odd, cd_odd = _high_halves(a, b), _high_halves(c, d)
    ef_odd, gh_odd = _high_halves(e, f), _high_halves(g, h)
    first, third = _even_pairs(ab, cd), _odd_pairs(ab, cd)
    first_on, third_on = _even_pairs(ef, gh), _odd_pairs(ef, gh)
    second, fourth = _even_pairs(ab_odd, cd_odd), _odd_pairs(ab_odd, cd_odd)
    second_on, fourth_on = _even_pairs(ef_odd, gh_odd), _odd_pairs(ef_odd, gh_odd)
    return (
        _even_pairs(first, first_on),
        _even_pairs(second, second_on),
        _even_pairs(third, third_on),
        _even_pairs(fourth, fourth_on),
        _odd_pairs(first, first_on),
        _odd_pairs(second, second_on),
        _odd_pairs(third, third_on),
        _odd_pairs(fourth, fourth_on),
    )


@njit(cache=True, nogil=True, inline="always")
def put(eight: Eight, target: Floats, first: int, step: int) -> None:  # pragma: no cover - compiled
    """Put eight times eight numbers into a flat array, so far from one another."""
    store(target, first, eight[0])
    store(target, first + step, eight[1])
    store(target, first + 2 * step, eight[2])
    store(target, first + 3 * step, eight[3])
    store(target, first + 4 * step, eight[4])
    store(target, first + 5 * step, eight[5])
    store(target, first + 6 * step, eight[6])
    store(target, first + 7 * step, eight[7])


@intrinsic
def fma(typingctx: Any, a: Any, b: Any, c: Any) -> Any:
    """a·b + c, rounded once."""

    def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
        return builder.call(_named(builder, "llvm.fma.v8f64", 3), args)

    return eight_type(eight_type, eight_type, eight_type), codegen


def _unary(name: str, meaning: str) -> Any:
    @intrinsic
    def apply(typingctx: Any, value: Any) -> Any:
        def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
            return builder.call(_named(builder, f"llvm.{name}.v8f64", 1), args)

        return eight_type(eight_type), codegen

    apply.__doc__ = meaning
    return apply


absolute = _unary("fabs", "Each number without its sign.")
nearest = _unary("rint", "The whole number nearest to each.")


@intrinsic
def without_denormals(typingctx: Any, value: Any, least: Any) -> Any:
    """Each number, or zero where it is smaller than ``least``: denormals are slow."""

    def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
        size = builder.call(_named(builder, "llvm.fabs.v8f64", 1), args[:1])
        heard = builder.fcmp_ordered(">=", size, args[1])
        return builder.select(heard, args[0], ir.Constant(_VECTOR, [0.0] * WIDTH))

    return eight_type(eight_type, eight_type), codegen


@intrinsic
def select(typingctx: Any, mask: Any, a: Any, b: Any) -> Any:
    """Of each number ``a`` where the mask is not zero, else ``b``."""

    def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
        zero = ir.Constant(_VECTOR, [0.0] * WIDTH)
        return builder.select(builder.fcmp_ordered("!=", args[0], zero), args[1], args[2])

    return eight_type(eight_type, eight_type, eight_type), codegen


def _binary(instruction: str) -> Any:
    @intrinsic
    def apply(typingctx: Any, a: Any, b: Any) -> Any:
        def codegen(context: Any, builder: Any, signature: Any, args: Any) -> Any:
            return getattr(builder, instruction)(*args)

        return eight_type(eight_type, eight_type), codegen

    return apply


_add, _sub, _mul, _div = (_binary(name) for name in ("fadd", "fsub", "fmul", "fdiv"))


def _both(a: Any, b: Any) -> bool:
    return isinstance(a, EightType) and isinstance(b, EightType)


@overload(operator.add, strict=False)
def _added(a: Any, b: Any) -> Any:
    return (lambda a, b: _add(a, b)) if _both(a, b) else None


@overload(operator.sub, strict=False)
def _taken(a: Any, b: Any) -> Any:
    return (lambda a, b: _sub(a, b)) if _both(a, b) else None


@overload(operator.mul, strict=False)
def _multiplied(a: Any, b: Any) -> Any:
    return (lambda a, b: _mul(a, b)) if _both(a, b) else None


@overload(operator.truediv, strict=False)
def _divided(a: Any, b: Any) -> Any:
    return (lambda a, b: _div(a, b)) if _both(a, b) else None


@njit(cache=True, nogil=True)
def silenced(array: Floats, least: float) -> None:  # pragma: no cover - compiled
    """Bring to zero what is smaller than ``least``, in a flat array; the last seven may be left."""
    for k in range(0, array.size - 7, 8):
        store(array, k, without_denormals(load(array, k), splat(least)))


@njit(cache=True, nogil=True, inline="always")
def copied(
    source: Floats, first: int, target: Floats, to: int, count: int
) -> None:  # pragma: no cover - compiled
    """Copy a stretch from one flat array to another."""
    whole = count & ~7
    for j in range(0, whole, 8):
        store(target, to + j, load(source, first + j))
    for j in range(whole, count):
        target[to + j] = source[first + j]


@njit(cache=True, nogil=True, inline="always")
def scaled(
    source: Floats, first: int, gain: Floats, at: int, target: Floats, to: int, count: int
) -> None:  # pragma: no cover - compiled
    """The same, times a gain of each moment."""
    whole = count & ~7
    for j in range(0, whole, 8):
        store(target, to + j, load(gain, at + j) * load(source, first + j))
    for j in range(whole, count):
        target[to + j] = gain[at + j] * source[first + j]
