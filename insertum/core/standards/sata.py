"""Serial ATA (SATA-IO, Serial ATA Revision 3): line rate to payload, 8b/10b coded."""

#: Payload MB/s by generation 1, 2, 3 (1.5, 3, 6 Gb/s).
MB_S = {1: 150, 2: 300, 3: 600}
GBIT_S = {1: 1.5, 2: 3.0, 3: 6.0}
#: Reach of legacy boot and MBR partition tables: 2**32 sectors of 512 bytes.
MBR_BYTES = 2**32 * 512
#: The same in whole GB: a drive of more reaches beyond it.
MBR_GB = MBR_BYTES // 10**9
