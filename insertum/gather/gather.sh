#!/bin/sh
# Gathers what this machine says of itself into one file for Insertum: memory, drives, radio,
# battery, load. Runs from any live Linux stick. It reads what tools and the kernel report about
# the hardware; it opens no file of a user, mounts nothing, and changes nothing.
#
#   sh gather.sh [--wake] [FILE]     writes FILE (default insertum-bundle.json) in this folder
#
# A drive that rests shows a slower link than it has. With --wake, or when you say yes to the
# question, up to 1 GB is read off each NVMe drive (and thrown away) while its link is looked at.
# Without root it gathers less, and says what root would add. It ends by itself within minutes;
# stopped half-way it leaves an earlier file as it was.
set -u
LC_ALL=C
export LC_ALL
PATH="$PATH:/usr/sbin:/sbin"
sys=${INSERTUM_SYS:-/sys}
proc=${INSERTUM_PROC:-/proc}
dev=${INSERTUM_DEV:-/dev}
wake=ask
if [ "${1:-}" = --wake ]; then
  wake=yes
  shift
fi
out=${1:-insertum-bundle.json}
work=$(mktemp -d) || exit 1
part=$work/bundle
child=
trap 'if [ -n "$child" ]; then kill "$child" 2>/dev/null; fi; rm -rf "$work"' EXIT
trap 'exit 130' INT
trap 'exit 143' TERM
root=no
[ "$(id -u)" = 0 ] && root=yes
mkdir "$work/files" || exit 1

have() { command -v "$1" >/dev/null 2>&1; }
say() { printf '%s\n' "$*" >&2; }
first_line() { head -n 1 "$1" 2>/dev/null; }

# bounded COMMAND...: runs it for a minute at most. It is waited for, so that a stop is heard at once.
bounded() {
  if have timeout; then
    timeout 60 "$@" 2>/dev/null </dev/null &
    child=$!
    wait "$child"
    return
  fi
  # Without timeout it is looked at every second: a watching subshell would inherit this script's traps.
  "$@" 2>/dev/null </dev/null &
  child=$!
  waited=0
  while kill -0 "$child" 2>/dev/null && [ "$waited" -lt 60 ]; do
    sleep 1
    waited=$((waited + 1))
  done
  kill "$child" 2>/dev/null
  wait "$child"
}

# keep NAME COMMAND...: what the command prints, where it prints anything. (sh has no variables of a function: callers
# have names of their own.)
keep() {
  kept=$1
  shift
  if ! have "$1"; then
    say "  $1 is not here: no $kept"
    return 1
  fi
  bounded "$@" >"$work/files/$kept"
  if [ ! -s "$work/files/$kept" ]; then
    rm -f "$work/files/$kept"
    say "  $1 said nothing: no $kept"
    return 1
  fi
}

# Some of the firmware's table is open to all, in the kernel's own words.
open_table() {
  id=$sys/class/dmi/id
  {
    echo "# from the kernel, without dmidecode"
    printf 'Handle 0x0000, DMI type 0, 24 bytes\nBIOS Information\n'
    printf '\tVersion: %s\n\n' "$(first_line "$id/bios_version")"
    printf 'Handle 0x0001, DMI type 1, 27 bytes\nSystem Information\n'
    printf '\tManufacturer: %s\n' "$(first_line "$id/sys_vendor")"
    printf '\tProduct Name: %s\n\n' "$(first_line "$id/product_name")"
    printf 'Handle 0x0002, DMI type 2, 15 bytes\nBase Board Information\n'
    printf '\tProduct Name: %s\n\n' "$(first_line "$id/board_name")"
    printf 'Handle 0x0004, DMI type 4, 48 bytes\nProcessor Information\n'
    printf '\tVersion: %s\n\n' "$(sed -n 's/^model name[^:]*: *//p' "$proc/cpuinfo" 2>/dev/null | head -n 1)"
  } >"$work/files/dmidecode.txt"
}

# Where every block device hangs, and what kind of card it is where it is one.
places() {
  for block in "$sys"/block/*; do
    [ -e "$block" ] || continue
    kind=$(first_line "$block/device/type")
    case $kind in MMC | SD) ;; *) kind=- ;; esac
    printf '%s %s %s\n' "${block##*/}" "$kind" "$(readlink -f "$block")"
  done
}

# Every USB interface: its class tells Bluetooth whatever its name is.
usb() {
  for face in "$sys"/bus/usb/devices/*:*; do
    [ -r "$face/bInterfaceClass" ] || continue
    device=${face%%:*}
    removable=$(first_line "$device/removable")
    driver=-
    [ -e "$face/driver" ] && driver=$(basename "$(readlink -f "$face/driver")")
    printf '%s %s:%s %s %s/%s/%s %s %s\n' "${face##*/}" \
      "$(first_line "$device/idVendor")" "$(first_line "$device/idProduct")" "${removable:-unknown}" \
      "$(first_line "$face/bInterfaceClass")" "$(first_line "$face/bInterfaceSubClass")" \
      "$(first_line "$face/bInterfaceProtocol")" "$driver" "$(first_line "$device/product")"
  done
}

wireless() {
  for card in "$sys"/class/net/*/wireless; do
    [ -d "$card" ] || continue
    face=${card%/wireless}
    printf '%s %s\n' "${face##*/}" "$(readlink -f "$face")"
  done
}

# Links are looked at while their drives read, where somebody said yes. A drive that hangs is left after a minute.
woken() {
  readers=
  for drive in "$sys"/block/nvme*n*; do
    name=${drive##*/}
    [ -r "$dev/$name" ] || continue
    if have timeout; then
      timeout 60 dd if="$dev/$name" of=/dev/null bs=1M count=1024 2>/dev/null </dev/null &
    else
      dd if="$dev/$name" of=/dev/null bs=1M count=1024 2>/dev/null </dev/null &
    fi
    readers="$readers $!"
  done
  keep lspci.txt lspci -D -vv -nn
  for reader in $readers; do kill "$reader" 2>/dev/null; done
}

say "Gathering (root: $root)"
keep uname.txt uname -a
[ -r "$proc/meminfo" ] && cat "$proc/meminfo" >"$work/files/meminfo.txt"
grep ' / ' "$proc/mounts" 2>/dev/null | tail -n 1 >"$work/files/root.txt"
keep free.txt free -m
keep vmstat.txt vmstat 2 5
keep df.txt df -P -k -l
keep lsusb.txt lsusb
usb >"$work/files/usb.txt"
places >"$work/files/places.txt"
keep lsblk.json lsblk -J -b -o NAME,TYPE,SIZE,MODEL,SERIAL,TRAN,ROTA,RM,REV,PKNAME,FSTYPE,PARTTYPE,PARTUUID,FSSIZE,FSUSED,MOUNTPOINT ||
  keep lsblk.json lsblk -J -b -o NAME,TYPE,SIZE,MODEL,SERIAL,TRAN,ROTA,RM,PKNAME,FSTYPE,MOUNTPOINT
for supply in "$sys"/class/power_supply/*/uevent; do
  # A list of its own for each: where one ends the next begins.
  [ -r "$supply" ] && cat "$supply"
done >"$work/files/power.txt"
wireless >"$work/files/net.txt"
if have iw; then
  while read -r face _; do
    keep "iw-$face.txt" iw dev "$face" station dump
  done <"$work/files/net.txt"
fi
keep efibootmgr.txt efibootmgr -v

if [ "$root" = yes ]; then
  if [ "$wake" = ask ] && [ -t 0 ] && [ -d "$sys/class/nvme" ]; then
    printf 'Read up to 1 GB off each NVMe drive to wake its link? [y/N] ' >&2
    read -r answer && case $answer in [Yy]*) wake=yes ;; esac
  fi
  if [ "$wake" = yes ]; then woken; else keep lspci.txt lspci -D -vv -nn; fi
  # Where it is not let at the table it still prints its own name.
  { keep dmidecode.txt dmidecode && grep -q 'DMI type' "$work/files/dmidecode.txt"; } || open_table
  keep nvme.json nvme list -o json
  if have nvme; then
    for drive in "$sys"/block/nvme*n*; do
      [ -e "$drive" ] || continue
      name=${drive##*/}
      if keep "smart-$name.log" nvme smart-log -o json "/dev/$name"; then
        printf '{"device_name": "/dev/%s", "log": %s}\n' "$name" "$(cat "$work/files/smart-$name.log")" \
          >"$work/files/smart-$name.json"
      fi
      rm -f "$work/files/smart-$name.log"
    done
  fi
  if have smartctl; then
    for drive in "$sys"/block/sd*; do
      [ -e "$drive" ] && keep "smart-${drive##*/}.json" smartctl -j -i -A "/dev/${drive##*/}"
    done
  fi
  # The modules' own EEPROMs, where the kernel shows them.
  number=0
  for image in "$sys"/bus/i2c/drivers/ee1004/*/eeprom "$sys"/bus/i2c/drivers/spd5118/*/eeprom "$sys"/bus/i2c/drivers/at24/*/eeprom; do
    [ -r "$image" ] || continue
    od -An -v -tx1 "$image" >"$work/files/spd-$number.txt" 2>/dev/null && number=$((number + 1))
  done
  [ "$number" = 0 ] && say "  no SPD image: load the module spd5118 (DDR5), ee1004 (DDR4) or at24 (DDR3) first"
else
  keep lspci.txt lspci -D -vv -nn
  open_table
  say "Root would add: memory modules and sockets, serial numbers, NVMe names, links under load, SPD images."
fi

tab=$(printf '\t')
# One JSON file. Text is escaped byte by byte, so that odd characters in a tool's output do no harm.
{
  printf '{"format": "insertum-bundle/1", "files": {'
  first=yes
  for file in "$work"/files/*; do
    [ -s "$file" ] || continue
    [ "$first" = yes ] || printf ','
    first=no
    printf '\n"%s": "' "${file##*/}"
    tr -cd '\11\12\15\40-\176' <"$file" | tr -d '\15' |
      sed -e 's/\\/\\\\/g' -e 's/"/\\"/g' -e "s/$tab/\\\\t/g" | awk '{ printf "%s\\n", $0 }'
    printf '"'
  done
  printf '\n}}\n'
} >"$part" || exit 1
# Beside the old file first: a full disk or a stopped script leaves that one whole.
if cat "$part" >"$out.part" && mv "$out.part" "$out"; then
  say "Written: $out"
else
  rm -f "$out.part"
  say "Could not write $out: is there room, and may this folder be written to?"
  exit 1
fi
