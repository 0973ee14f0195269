from typing import Any

from pyarrow import BufferReader, DataType, Table

class ReadOptions:
    def __init__(self, *, column_names: list[str] = ..., block_size: int = ..., use_threads: bool = ...) -> None: ...

class ParseOptions:
    def __init__(
        self, *, delimiter: str = ..., quote_char: str | bool = ..., ignore_empty_lines: bool = ...
    ) -> None: ...

class ConvertOptions:
    def __init__(
        self,
        *,
        column_types: dict[str, DataType] = ...,
        include_columns: list[str] = ...,
        decimal_point: str = ...,
        check_utf8: bool = ...,
        null_values: list[str] = ...,
        strings_can_be_null: bool = ...,
    ) -> None: ...

def read_csv(
    source: BufferReader,
    read_options: ReadOptions = ...,
    parse_options: ParseOptions = ...,
    convert_options: ConvertOptions = ...,
) -> Table: ...

class WriteOptions:
    def __init__(self, *, include_header: bool = ..., quoting_style: str = ...) -> None: ...

def write_csv(table: Table, output: Any, write_options: WriteOptions = ...) -> None: ...
