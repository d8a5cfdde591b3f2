#!/usr/bin/env bash
# Makes the stand-in disks' templates with the system's own tools: real partition tables, real file systems, files allocated as a system
# allocates them. Every sector of a file says only what kind of content belongs there; the stand-in fills it in (see README.md).
#   standins/templates/make.sh      writes standins/src/main/resources/office/*.img.zst
set -euo pipefail
export LC_ALL=C PATH="$PATH:/usr/sbin:/sbin" MTOOLS_SKIP_CHECK=1 E2FSPROGS_FAKE_TIME=1790000000 SOURCE_DATE_EPOCH=1790000000
here=$(cd "$(dirname "$0")" && pwd)
out=$(cd "$here/../src/main/resources/office" && pwd)
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

sector=512 # of the disk under way
# only fdisk can be told that a file has large sectors; it takes sfdisk's scripts
table() { cat > script; printf 'I\nscript\nw\n' | fdisk -b $sector "$1" > /dev/null; }
row() { rm -f dumped; printf 'O\ndumped\nq\n' | fdisk -b $sector "$1" > /dev/null; grep "img$2 " dumped; }
start_of() { row "$1" "$2" | sed 's/.*start= *\([0-9]*\),.*/\1/'; }
sectors_of() { row "$1" "$2" | sed 's/.*size= *\([0-9]*\),.*/\1/'; }
ext() { # DISK NUMBER KIND ROOT UUID
  mkfs."$3" -q -F -b 4096 -N 2048 -m 0 -U "$5" $([ "$3" = ext2 ] || echo "-J size=4") -E "offset=$(($(start_of "$1" "$2") * 512)),hash_seed=$5" -d "$4" "$1" \
    $(($(sectors_of "$1" "$2") / 2))k
}
fat() { # DISK NUMBER ROOT LABEL OPTIONS
  local at; at=$(start_of "$1" "$2")
  mkfs.vfat -n "$4" -i 12345678 ${5:-} --offset "$at" "$1" $(($(sectors_of "$1" "$2") / 2)) > /dev/null
  mcopy -i "$1@@$((at * 512))" -s "$3"/* ::/
}
# part DISK NUMBER: an empty file as long as the partition, to be made and then put into its place
part() { rm -f part.img; truncate -s $(($(sectors_of "$1" "$2") * sector)) part.img; }
place() { dd if=part.img of="$1" bs=1M oflag=seek_bytes seek=$(($(start_of "$1" "$2") * sector)) conv=notrunc,sparse status=none; }
ntfs() { # DISK NUMBER LABEL ROOT [OPTIONS]: the files of ROOT under their base names, since no tool makes folders without mounting
  part "$1" "$2"
  mkntfs -q -Q -F -L "$3" ${5:-} part.img > /dev/null 2>&1
  local f; find "$4" -type f | sort | while read -r f; do ntfscp -f -q part.img "$f" "$(basename "$(dirname "$f")")-$(basename "$f")" > /dev/null; done
}
# page NAME KIBIBYTES: a page or hibernation file in the root of the NTFS under way
page() { file "page.tmp" b "$2"; ntfscp -f -q part.img page.tmp "$1" > /dev/null; rm page.tmp; }
# Sets the dirty flag of the NTFS under way: flags of the attribute 0x70 in record 3 of the file table, which mkntfs puts at cluster 4.
dirty() {
  perl -e 'open F, "+<", "part.img"; binmode F; seek F, 4 * 4096 + 3 * 1024, 0; read F, $r, 1024; my $at = unpack("v", substr($r, 20, 2));
    while (($t = unpack("V", substr($r, $at, 4))) != 0x70) { die if $t == 0xFFFFFFFF; $at += unpack("V", substr($r, $at + 4, 4)); }
    my $flags = $at + unpack("v", substr($r, $at + 20, 2)) + 10; seek F, 4 * 4096 + 3 * 1024 + $flags, 0; print F pack("v", unpack("v", substr($r, $flags, 2)) | 1);'
}
pack() { zstd -q -19 -f "$1" -o "$out/$1.zst"; ls -l "$out/$1.zst"; }
id() { printf '5EED0000-0000-4000-8000-%012d' "$1"; }

# MERIDIAN: drafting workstation; firmware, reserved, main with its page file, recovery
truncate -s 261218304 meridian.img
sfdisk -q meridian.img <<T
label: gpt
label-id: $(id 100)
size=8M, type=U, name="firmware", uuid=$(id 101)
size=4M, type=E3C9E316-0B5C-4DB8-817D-F92DF00215AE, name="reserved", uuid=$(id 102)
size=212M, type=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7, name="main", uuid=$(id 103)
type=DE94BBA4-06D1-4D40-A16A-BFD50179D6AC, name="recovery", uuid=$(id 104)
T
mkdir esp main rec
files esp/EFI b 6 300
files main/system b 50 360; files main/programs b 40 400; files main/drawings d 45 500; files main/notes t 60 200; files main/survey t 20 500
files rec/tools b 12 400
fat meridian.img 1 esp FIRMWARE "-F 12"
ntfs meridian.img 3 Main main; page pagefile.sys 4000; place meridian.img 3
ntfs meridian.img 4 Recovery rec; place meridian.img 4
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
rm -rf ctl job

# CONTOUR: mapping workstation; a system disk with page and hibernation file, and a data disk of 4096-byte sectors
truncate -s 133291008 contour-1.img
sfdisk -q contour-1.img <<T
label: gpt
label-id: $(id 500)
size=8M, type=U, name="firmware", uuid=$(id 501)
size=90M, type=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7, name="main", uuid=$(id 502)
type=DE94BBA4-06D1-4D40-A16A-BFD50179D6AC, name="recovery", uuid=$(id 503)
T
mkdir esp main rec
files esp/EFI b 5 300; files main/system b 60 300; files main/programs b 30 500; files main/maps d 20 500; files rec/tools b 12 400
fat contour-1.img 1 esp FIRMWARE "-F 12"
ntfs contour-1.img 2 Main main; page pagefile.sys 3000; page hiberfil.sys 5000; place contour-1.img 2
ntfs contour-1.img 3 Recovery rec; place contour-1.img 3
pack contour-1.img; rm -rf esp main rec
truncate -s 137711616 contour-2.img
sector=4096
table contour-2.img <<T
label: gpt
label-id: $(id 550)
size=100M, type=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7, name="mapping", uuid=$(id 551)
type=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7, name="exchange", uuid=$(id 552)
T
mkdir tiles
files tiles/sheets d 60 900; files tiles/index t 30 200
ntfs contour-2.img 1 Mapping tiles "-s 4096"; place contour-2.img 1
part contour-2.img 2; mkfs.exfat -L EXCHANGE -c 4096 part.img > /dev/null
file sheet t 6000; perl "$here/exfat-file.pl" part.img sheet; file sheet d 4000; perl "$here/exfat-file.pl" part.img sheet
fsck.exfat -n part.img > /dev/null; place contour-2.img 2
sector=512
pack contour-2.img; rm -rf tiles sheet

# PLUMB: front desk; BIOS, an MBR with logical partitions
truncate -s 82691584 plumb.img
sfdisk -q plumb.img <<T
label: dos
label-id: 0x5eed0600
start=2048, size=50M, type=7, bootable
start=104448, type=f
start=106496, size=14M, type=7
start=137216, type=c
T
mkdir main post out
files main/system b 40 400; files main/letters t 40 200; files post/scans d 15 400; files out/forms t 20 200
ntfs plumb.img 1 Main main; page pagefile.sys 2500; place plumb.img 1
ntfs plumb.img 5 Post post; place plumb.img 5
fat plumb.img 6 out TRANSFER "-F 16"
pack plumb.img; rm -rf main post out

# TRIPOD: field laptop; the main volume is encrypted as a whole
truncate -s 79387648 tripod.img
sfdisk -q tripod.img <<T
label: gpt
label-id: $(id 700)
size=8M, type=U, name="firmware", uuid=$(id 701)
size=4M, type=E3C9E316-0B5C-4DB8-817D-F92DF00215AE, name="reserved", uuid=$(id 702)
size=52M, type=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7, name="main", uuid=$(id 703)
type=DE94BBA4-06D1-4D40-A16A-BFD50179D6AC, name="recovery", uuid=$(id 704)
T
mkdir esp rec
files esp/EFI b 5 300; files rec/tools b 8 400
fat tripod.img 1 esp FIRMWARE "-F 12"
part tripod.img 3; file dense d $(($(stat -c %s part.img) / 1024)); mv dense part.img
perl -e 'open F, "+<", "part.img"; print F pack("a3 a8 x499 v", "\xEB\x58\x90", "-FVE-FS-", 0xAA55);'; place tripod.img 3
ntfs tripod.img 4 Recovery rec; place tripod.img 4
pack tripod.img; rm -rf esp rec

# THEODOLITE: field laptop; LUKS, its header made by cryptsetup, its content dense as ciphertext is
truncate -s 119081472 theodolite.img
sfdisk -q theodolite.img <<T
label: gpt
label-id: $(id 800)
size=8M, type=U, name="firmware", uuid=$(id 801)
size=24M, type=L, name="boot", uuid=$(id 802)
type=L, name="locked", uuid=$(id 803)
T
mkdir esp boot
files esp/EFI b 5 300; files boot/kernel b 4 4000
fat theodolite.img 1 esp FIRMWARE "-F 12"; ext theodolite.img 2 ext4 boot "$(id 812)"
part theodolite.img 3; cp part.img header.img
printf 'not a secret' | cryptsetup -q luksFormat --type luks2 --pbkdf pbkdf2 --pbkdf-force-iterations 1000 --uuid "$(id 813 | tr 'A-F' 'a-f')" header.img -
# the two copies of the header are kept, the key slots behind them are made up like the content: random bytes do not pack
file dense d $((($(stat -c %s part.img) - 32768) / 1024))
dd if=header.img of=part.img bs=32K count=1 conv=notrunc status=none
dd if=dense of=part.img bs=32K seek=1 conv=notrunc status=none; place theodolite.img 3
pack theodolite.img; rm -rf esp boot dense header.img

# ISOBAR: laptop whose main file system is only recognised
truncate -s 165383168 isobar.img
sfdisk -q isobar.img <<T
label: gpt
label-id: $(id 900)
size=8M, type=U, name="firmware", uuid=$(id 901)
type=L, name="home", uuid=$(id 902)
T
mkdir esp home
files esp/EFI b 5 300; files home/notes t 60 200; files home/charts d 40 500
fat isobar.img 1 esp FIRMWARE "-F 12"
part isobar.img 2; mkfs.btrfs -q -f -M -U "$(id 912 | tr 'A-F' 'a-f')" -r home part.img; truncate -s $(($(sectors_of isobar.img 2) * 512)) part.img; place isobar.img 2
pack isobar.img; rm -rf esp home

# LEDGER: accounts; its main file system was not closed
truncate -s 103670784 ledger.img
sfdisk -q ledger.img <<T
label: gpt
label-id: $(id 1000)
size=8M, type=U, name="firmware", uuid=$(id 1001)
size=76M, type=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7, name="main", uuid=$(id 1002)
type=DE94BBA4-06D1-4D40-A16A-BFD50179D6AC, name="recovery", uuid=$(id 1003)
T
mkdir esp main rec
files esp/EFI b 5 300; files main/system b 40 400; files main/books t 60 300; files rec/tools b 10 400
fat ledger.img 1 esp FIRMWARE "-F 12"
ntfs ledger.img 2 Main main; page pagefile.sys 3000; dirty; place ledger.img 2
ntfs ledger.img 3 Recovery rec; place ledger.img 3
pack ledger.img; rm -rf esp main rec
