"""What `turns.py` offers as assembly of LLVM, each function with an entry that takes all it is given from a row of whole numbers."""

from __future__ import annotations

from typing import Any

import numpy as np
from numba import njit, typeof, types
from numba.extending import intrinsic
from numba.np.arrayobj import make_array, populate_array

from zembric.core.evening import turns
from zembric.core.evening.model import Evening, Problem
from zembric.core.evening.order import empty_order, room_for, table_of
from zembric.core.evening.shapes import Cost, Worth

_WORDS = types.CPointer(types.int64)


def assembly_of_turns() -> dict[str, str]:
    table = table_of(Problem((Evening(0, 1),), (), (), 0, None))
    order, room, reals, whole, flags = (
        empty_order(table),
        room_for(table),
        np.zeros(1),
        np.zeros(1, np.int64),
        np.zeros(1, np.bool_),
    )
    worth, cost = Worth(0.0, whole, 0.0, 0.0, 0.0, 0.0, reals, reals, 0.0), Cost(reals, reals)
    given = {
        turns.hold: (table, worth, order, cost, room),
        turns.take_turns: (0, reals, table, flags, worth, worth, order, order, cost, order, room, whole, reals),
    }
    return {function.__name__: _assembly(function, typeof(arguments)) for function, arguments in given.items()}


def _assembly(function: Any, kind: Any) -> str:
    arguments_in = _reader(kind)

    @njit(types.void(_WORDS), no_cpython_wrapper=True, no_cfunc_wrapper=True, _nrt=False, error_model="numpy")
    def entry(words: Any) -> None:
        function(*arguments_in(words))

    assembly: str = entry.inspect_llvm(entry.signatures[0])
    return assembly


def _reader(kind: Any) -> Any:
    """What makes values of these kinds from a row of whole numbers (`native.py`)."""

    def code(context: Any, builder: Any, _signature: Any, given: Any) -> Any:
        place = iter(range(1 << 20))

        def word() -> Any:
            return builder.load(builder.gep(given[0], [context.get_constant(types.intp, next(place))]))

        def value(kind: Any) -> Any:
            if isinstance(kind, types.BaseTuple):
                return context.make_tuple(builder, kind, [value(each) for each in kind])
            if isinstance(kind, types.Array):
                return _array(context, builder, kind, word(), [word() for _ in range(kind.ndim)])
            return builder.bitcast(word(), context.get_value_type(kind)) if isinstance(kind, types.Float) else word()

        return value(kind)

    @intrinsic
    def read(_context: Any, words: Any) -> Any:
        return kind(words), code

    return read


def _array(context: Any, builder: Any, kind: Any, address: Any, shape: list[Any]) -> Any:
    array = make_array(kind)(context, builder)
    item = context.get_constant(types.intp, context.get_abi_sizeof(context.get_data_type(kind.dtype)))
    strides = [item]
    for size in reversed(shape[1:]):
        strides.insert(0, builder.mul(strides[0], size))
    data = builder.inttoptr(address, array.data.type)
    populate_array(array, data=data, shape=shape, strides=strides, itemsize=item, meminfo=None)
    return array._getvalue()
