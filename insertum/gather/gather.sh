#!/bin/sh
# Gathers what this machine says of itself into one file for Insertum: memory, drives, radio,
# battery, load. Runs from any live Linux stick. It reads what tools and the kernel report about
# the hardware; it opens no file of a user, mounts nothing, and changes nothing.
#
#   sh gather.sh [FILE]          writes FILE (default insertum-bundle.json) in this folder
#
# Without root it gathers less, and says what root would add.
set -u
LC_ALL=C
export LC_ALL
PATH="$PATH:/usr/sbin:/sbin"
out=${1:-insertum-bundle.json}
work=$(mktemp -d) || exit 1
trap 'rm -rf "$work"' EXIT INT TERM
root=no
[ "$(id -u)" = 0 ] && root=yes

have() { command -v "$1" >/dev/null 2>&1; }
say() { printf '%s\n' "$*" >&2; }

# keep NAME COMMAND...: what the command prints, where it prints anything; never longer than a minute.
keep() {
  name=$1
  shift
  if ! have "$1"; then
    say "  $1 is not here: no $name"
    return
  fi
  if have timeout; then
    timeout 60 "$@" >"$work/$name" 2>/dev/null
  else
    "$@" >"$work/$name" 2>/dev/null
  fi
  if [ ! -s "$work/$name" ]; then
    rm -f "$work/$name"
    say "  $1 said nothing: no $name"
  fi
}

say "Gathering (root: $root)"
keep uname.txt uname -a
[ -r /proc/meminfo ] && cat /proc/meminfo >"$work/meminfo.txt"
keep free.txt free -m
keep vmstat.txt vmstat 2 5
keep df.txt df -P -k -l
keep lspci.txt lspci -vv -nn
keep lsusb.txt lsusb
keep lsblk.json lsblk -J -b -d -o NAME,TYPE,SIZE,MODEL,SERIAL,TRAN,ROTA
for pack in /sys/class/power_supply/BAT*/uevent; do
  [ -r "$pack" ] && cat "$pack" >"$work/battery.txt" && break
done
if have iw; then
  for card in /sys/class/net/*/wireless; do
    [ -d "$card" ] || continue
    keep iw.txt iw dev "$(basename "$(dirname "$card")")" station dump
    break
  done
fi

if [ "$root" = yes ]; then
  keep dmidecode.txt dmidecode
  keep nvme.json nvme list -o json
  # The modules' own EEPROMs, where the kernel shows them.
  number=0
  for image in /sys/bus/i2c/drivers/ee1004/*/eeprom /sys/bus/i2c/drivers/at24/*/eeprom; do
    [ -r "$image" ] || continue
    od -An -v -tx1 "$image" >"$work/spd-$number.txt" 2>/dev/null && number=$((number + 1))
  done
  [ "$number" = 0 ] && say "  no SPD image: load the module ee1004 (DDR4) or at24 (DDR3) first"
else
  # Some of the firmware's table is open to all.
  {
    echo "# from /sys/class/dmi/id"
    echo "Handle 0x0000, DMI type 0, 24 bytes"
    echo "BIOS Information"
    printf '\tVersion: %s\n\n' "$(cat /sys/class/dmi/id/bios_version 2>/dev/null)"
    echo "Handle 0x0001, DMI type 1, 27 bytes"
    echo "System Information"
    printf '\tManufacturer: %s\n' "$(cat /sys/class/dmi/id/sys_vendor 2>/dev/null)"
    printf '\tProduct Name: %s\n\n' "$(cat /sys/class/dmi/id/product_name 2>/dev/null)"
    echo "Handle 0x0002, DMI type 2, 15 bytes"
    echo "Base Board Information"
    printf '\tProduct Name: %s\n\n' "$(cat /sys/class/dmi/id/board_name 2>/dev/null)"
    echo "Handle 0x0004, DMI type 4, 48 bytes"
    echo "Processor Information"
    printf '\tVersion: %s\n\n' "$(sed -n 's/^model name[^:]*: *//p' /proc/cpuinfo 2>/dev/null | head -n 1)"
  } >"$work/dmidecode.txt"
  say "Root would add: memory modules and sockets, serial numbers, NVMe names, links under load, SPD images."
fi

tab=$(printf '\t')
# One JSON file. Text is escaped byte by byte, so that odd characters in a tool's output do no harm.
{
  printf '{"format": "insertum-bundle/1", "files": {'
  first=yes
  for file in "$work"/*; do
    [ -f "$file" ] || continue
    [ "$first" = yes ] || printf ','
    first=no
    printf '\n"%s": "' "$(basename "$file")"
    tr -cd '\11\12\15\40-\176' <"$file" | tr -d '\15' |
      sed -e 's/\\/\\\\/g' -e 's/"/\\"/g' -e "s/$tab/\\\\t/g" | awk '{ printf "%s\\n", $0 }'
    printf '"'
  done
  printf '\n}}\n'
} >"$out.part" && mv "$out.part" "$out"
say "Written: $out"
