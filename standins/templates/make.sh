#!/usr/bin/env bash
# Makes the stand-in disks' templates with the system's own tools: real partition tables, real file systems, files allocated as a system
# allocates them. Every sector of a file says only what kind of content belongs there; the stand-in fills it in (see README.md).
#   standins/templates/make.sh      writes standins/src/main/resources/office/*.img.zst
set -euo pipefail
export LC_ALL=C PATH="$PATH:/usr/sbin:/sbin" MTOOLS_SKIP_CHECK=1 E2FSPROGS_FAKE_TIME=1790000000 SOURCE_DATE_EPOCH=1790000000
out=$(cd "$(dirname "$0")/../src/main/resources/office" && pwd)
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
cd "$work"
number=0

# file PATH KIND KIBIBYTES: a file of marked sectors; KIND t text, b programs and databases, d dense (pictures, archives)
file() {
  number=$((number + 1))
  mkdir -p "$(dirname "$1")"
  perl -e 'print pack("a512", sprintf("GRNFILL %s%08d", $ARGV[0], $ARGV[1])) x ($ARGV[2] * 2)' "$2" "$number" "$3" > "$1"
}

# files FOLDER KIND COUNT KIBIBYTES
files() { local i; for i in $(seq 1 "$3"); do file "$1/$i" "$2" "$4"; done; }

start_of() { sfdisk -d "$1" | sed -n "s/^.*img$2 *: start= *\([0-9]*\),.*/\1/p"; }
sectors_of() { sfdisk -d "$1" | sed -n "s/^.*img$2 *:.*size= *\([0-9]*\),.*/\1/p"; }
ext() { # DISK NUMBER KIND ROOT UUID
  mkfs."$3" -q -F -b 4096 -N 2048 -m 0 -U "$5" $([ "$3" = ext2 ] || echo "-J size=4") -E "offset=$(($(start_of "$1" "$2") * 512)),hash_seed=$5" -d "$4" "$1" \
    $(($(sectors_of "$1" "$2") / 2))k
}
fat() { # DISK NUMBER ROOT LABEL OPTIONS
  local at; at=$(start_of "$1" "$2")
  mkfs.vfat -n "$4" -i 12345678 ${5:-} --offset "$at" "$1" $(($(sectors_of "$1" "$2") / 2)) > /dev/null
  mcopy -i "$1@@$((at * 512))" -s "$3"/* ::/
}
pack() { zstd -q -19 -f "$1" -o "$out/$1.zst"; ls -l "$out/$1.zst"; }
id() { printf '5EED0000-0000-4000-8000-%012d' "$1"; }

# MERIDIAN: drafting workstation; firmware, reserved, main, recovery
truncate -s 261218304 meridian.img
sfdisk -q meridian.img <<T
label: gpt
label-id: $(id 100)
size=8M, type=U, name="firmware", uuid=$(id 101)
size=4M, type=E3C9E316-0B5C-4DB8-817D-F92DF00215AE, name="reserved", uuid=$(id 102)
size=212M, type=L, name="main", uuid=$(id 103)
type=DE94BBA4-06D1-4D40-A16A-BFD50179D6AC, name="recovery", uuid=$(id 104)
T
mkdir esp main rec
files esp/EFI b 6 300
files main/system b 60 300; files main/programs b 40 400; files main/drawings d 45 500; files main/notes t 60 200; files main/survey t 20 500
files rec/tools b 12 400
fat meridian.img 1 esp FIRMWARE "-F 12"; ext meridian.img 3 ext4 main "$(id 113)"; ext meridian.img 4 ext4 rec "$(id 114)"
pack meridian.img; rm -rf esp main rec

# DATUM: file server; system with swap, and a data disk
truncate -s 133291008 datum-1.img
sfdisk -q datum-1.img <<T
label: gpt
label-id: $(id 200)
size=8M, type=U, name="firmware", uuid=$(id 201)
size=100M, type=L, name="system", uuid=$(id 202)
type=S, name="swap", uuid=$(id 203)
T
mkdir esp sys
files esp/EFI b 4 300
files sys/usr b 60 300; files sys/var t 50 200; files sys/home t 20 300
fat datum-1.img 1 esp FIRMWARE "-F 12"; ext datum-1.img 2 ext4 sys "$(id 212)"
truncate -s $(($(sectors_of datum-1.img 3) * 512)) swap; mkswap -q -U "$(id 213)" swap
dd if=swap of=datum-1.img bs=512 seek="$(start_of datum-1.img 3)" conv=notrunc,sparse status=none
pack datum-1.img; rm -rf esp sys swap
truncate -s 464776704 datum-2.img
sfdisk -q datum-2.img <<T
label: gpt
label-id: $(id 300)
type=L, name="surveys", uuid=$(id 301)
T
mkdir data
files data/tarn d 90 600; files data/ledger t 80 300; files data/maps d 40 800; files data/models b 60 400
ext datum-2.img 1 ext4 data "$(id 311)"
pack datum-2.img; rm -rf data

# GNOMON: plotter controller; an old small card, true size, MBR
truncate -s 500170752 gnomon.img
sfdisk -q gnomon.img <<T
label: dos
label-id: 0x5eed0400
size=200M, type=6, bootable
type=83
T
mkdir ctl job
files ctl/SYS b 40 400; files ctl/PENS t 20 200
files job/queue t 30 400; files job/plots d 20 500
fat gnomon.img 1 ctl CONTROL "-F 16"; ext gnomon.img 2 ext2 job "$(id 412)"
pack gnomon.img
