"""The compiled search without its compiler, which takes longer to load than a small search to find the best plan.

`compiled` makes machine code of `turns.py` once, with Numba; `Turns` loads it with LLVM alone. Both speak through whole numbers of 64
bits: of an array its address and its shape, of a tuple what is in it, one after another.
"""

from __future__ import annotations

import ctypes
import struct
from typing import TYPE_CHECKING, Any

import llvmlite.binding as llvm
import numpy as np

from zembric.core.evening.shapes import Cost, Worth

if TYPE_CHECKING:
    from collections.abc import Callable

    from zembric.core.evening.shapes import Flags, Floats, Order, Room, Table, Whole

#: As Numba calls what it compiled: where the answer and what was raised are told, then what is given. Other than 0 is a fault.
_CALLED = ctypes.CFUNCTYPE(ctypes.c_int32, ctypes.c_void_p, ctypes.c_void_p, ctypes.c_void_p)


class Turns:
    """What `turns.py` offers, from its machine code.

    Args:
        code: From `compiled`, on a machine with the same processor: anything else may end the process.
    """

    def __init__(self, code: bytes) -> None:
        engine = llvm.create_mcjit_compiler(llvm.parse_assembly(""), _machine())
        engine.add_object_file(llvm.ObjectFileRef.from_data(code))
        engine.finalize_object()
        self._hold, self._take_turns = _Function(engine, "hold"), _Function(engine, "take_turns")

    # What is called believes what it is told of its arrays: only these kinds may be given.

    def lay_out(self, table: Table, order: Order, room: Room) -> None:
        """As `hold`, whatever it costs."""
        none = np.zeros(len(order.has))
        worth = Worth(0.0, np.zeros(len(table.evenings), np.int64), 0.0, 0.0, 0.0, 0.0, none, none, 0.0)
        self.hold(table, worth, order, Cost(np.zeros(1), np.zeros(1)), room)

    def hold(self, table: Table, worth: Worth, held: Order, cost: Cost, room: Room) -> None:
        self._hold.on(table, worth, held, cost, room)()

    def take_turns(
        self, turns: int, warmth: Floats, table: Table, may: Flags, worth: Worth, truth: Worth, held: Order, best: Order,
        cost: Cost, tried: Order, room: Room, scratch: Whole, chance: Floats,
    ) -> Callable[[], None]:  # fmt: skip
        """To be called again and again, with what stands in these arrays then."""
        return self._take_turns.on(
            turns, warmth, table, may, worth, truth, held, best, cost, tried, room, scratch, chance
        )


class _Function:
    """While it runs other threads do, too."""

    def __init__(self, engine: llvm.ExecutionEngine, name: str) -> None:
        # The code is there as long as the engine is.
        self._engine, self._name = engine, name
        self._call = _CALLED(engine.get_function_address(name))

    def on(self, *arguments: Any) -> Callable[[], None]:
        words, told = np.array(_words_of(arguments), np.int64), np.zeros(2, np.int64)

        # What is called keeps alive whose addresses it is given.
        def call() -> None:
            at = told.ctypes.data
            if self._call(at, at + told.itemsize, words.ctypes.data):
                raise RuntimeError(f"{self._name} failed on {arguments}")

        return call


def _words_of(value: Any) -> list[int]:
    if isinstance(value, tuple):
        return [word for each in value for word in _words_of(each)]
    if isinstance(value, np.ndarray):
        return [value.ctypes.data, *value.shape]
    if isinstance(value, float):
        return [*struct.unpack("q", struct.pack("d", value))]
    return [int(value)]


def _machine() -> llvm.TargetMachine:
    llvm.initialize_native_target()
    llvm.initialize_native_asmprinter()
    return llvm.Target.from_default_triple().create_target_machine(
        llvm.get_host_cpu_name(), llvm.get_host_cpu_features().flatten(), opt=3, codemodel="jitdefault", jit=True
    )


def processor() -> str:
    """What the machine code is made for."""
    return f"{llvm.get_process_triple()} {llvm.get_host_cpu_name()} {llvm.get_host_cpu_features().flatten()}"


def compiled() -> bytes:
    """Machine code of `turns.py`. That takes some seconds."""
    from zembric.core.evening.compiling import assembly_of_turns  # noqa: PLC0415

    whole = llvm.parse_assembly("")
    for name, assembly in assembly_of_turns().items():
        module = llvm.parse_assembly(assembly)
        (entry,) = (
            each for each in module.functions if not each.is_declaration and each.linkage == llvm.Linkage.external
        )
        entry.name = name
        whole.link_in(module)
    code: bytes = _machine().emit_object(whole)
    return code
