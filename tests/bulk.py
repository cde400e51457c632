"""Lists longer than anybody types."""


def many(count: int) -> bytes:
    rows = [
        f"memory,BULK-{n:05d},Pallas,Bulk module {n},16GB 2Rx8 PC4-3200AA-SE1-11,0,Quay Supply {20 + n % 9}.50 x4"
        for n in range(count)
    ]
    return ("kind,number,maker,name,label,spreader_mm,offers\n" + "\n".join(rows) + "\n").encode()
