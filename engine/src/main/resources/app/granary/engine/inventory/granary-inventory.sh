#!/bin/sh
# Prints what this computer and its disks are, as Granary reads it (inventory.schema.json). Only reads; needs lsblk and nothing installed.
# Run as root, so that file systems are told too:   sudo sh granary-inventory.sh > NAME.json
set -u
LC_ALL=C
export LC_ALL

# text for JSON: without control characters, quotes and backslashes escaped
quoted() { printf '%s' "$1" | tr -d '[:cntrl:]' | sed -e 's/\\/\\\\/g' -e 's/"/\\"/g' -e 's/^ *//' -e 's/ *$//'; }
fact() { [ -r "$1" ] && cat "$1" 2> /dev/null; }
told() { lsblk -dnb -o "$1" "/dev/$2" 2> /dev/null | head -n 1; }
# a number, or null
number() { case $1 in '' | *[!0-9]*) printf null ;; *) printf '%s' "$1" ;; esac; }

firmware=bios
[ -d /sys/firmware/efi ] && firmware=uefi
secure=null
for variable in /sys/firmware/efi/efivars/SecureBoot-*; do
  [ -r "$variable" ] || continue
  case $(od -An -t u1 -j 4 -N 1 "$variable" | tr -d ' ') in 1) secure=true ;; 0) secure=false ;; esac
done
system=$(sed -n 's/^PRETTY_NAME="\{0,1\}\([^"]*\)"\{0,1\}$/\1/p' /etc/os-release 2> /dev/null | head -n 1)
name=$(hostname 2> /dev/null || uname -n)

printf '{"format": "granary-inventory", "version": 1, "computers": [\n  {"name": "%s", "maker": "%s", "model": "%s",\n' "$(quoted "$name")" \
  "$(quoted "$(fact /sys/class/dmi/id/sys_vendor)")" "$(quoted "$(fact /sys/class/dmi/id/product_name)")"
printf '   "firmware": "%s", "secureBoot": %s, "operatingSystem": "%s, %s", "disks": [' "$firmware" "$secure" "$(quoted "$system")" "$(quoted "$(uname -r)")"
between=
for disk in $(lsblk -dn -o NAME,TYPE | awk '$2 == "disk" { print $1 }'); do
  size=$(told SIZE "$disk" | tr -d ' ')
  case $disk in zram* | ram*) continue ;; esac
  case $size in '' | 0) continue ;; esac
  scheme=$(told PTTYPE "$disk" | tr -d ' ')
  [ "$scheme" = dos ] && scheme=mbr
  [ -n "$scheme" ] && [ "$scheme" != gpt ] && [ "$scheme" != mbr ] && scheme=
  sector=$(fact "/sys/class/block/$disk/queue/logical_block_size")
  printf '%s\n    {"name": "%s", "model": "%s", "serial": "%s", "sizeBytes": %s, "sectorBytes": %s, "bus": "%s", "scheme": "%s", "partitions": [' "$between" "$disk" \
    "$(quoted "$(told MODEL "$disk")")" "$(quoted "$(told SERIAL "$disk")")" "$(number "$size")" "$(number "$sector")" "$(quoted "$(told TRAN "$disk")")" "$scheme"
  between=,
  inner=
  for path in "/sys/class/block/$disk/$disk"*; do
    [ -e "$path/partition" ] || continue
    part=${path##*/}
    label=$(told PARTLABEL "$part")
    [ -n "$label" ] || label=$(told LABEL "$part")
    printf '%s\n      {"number": %s, "startBytes": %s, "sizeBytes": %s, "type": "%s", "name": "%s", "fileSystem": "%s", "usedBytes": %s}' "$inner" "$(cat "$path/partition")" \
      "$(($(cat "$path/start") * 512))" "$(($(cat "$path/size") * 512))" "$(quoted "$(told PARTTYPE "$part")")" "$(quoted "$label")" \
      "$(quoted "$(told FSTYPE "$part")")" "$(number "$(told FSUSED "$part" | tr -d ' ')")"
    inner=,
  done
  if [ -z "$inner" ] && [ -n "$(told FSTYPE "$disk" | tr -d ' ')" ]; then
    printf '\n      {"number": 0, "startBytes": 0, "sizeBytes": %s, "name": "%s", "fileSystem": "%s", "usedBytes": %s}' "$(number "$size")" "$(quoted "$(told LABEL "$disk")")" \
      "$(quoted "$(told FSTYPE "$disk")")" "$(number "$(told FSUSED "$disk" | tr -d ' ')")"
  fi
  printf ']}'
done
printf '\n  ]}\n]}\n'
