#!/usr/bin/env bash
# Makes files.img.gz: a small NTFS volume with what ntfscp cannot make (packed files, holes, folders, links), by ntfs-3g over FUSE as root.
# It is kept beside this script, since a machine that runs the tests may have no FUSE. The digests of what ntfscat reads of it are taken
# by the test itself.
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
work=$(mktemp -d)
truncate -s 24M "$work/files.img"
mkntfs -F -q -c 1024 -L files "$work/files.img" 2> /dev/null
mkdir "$work/at"
ntfs-3g -o compression,user_xattr,windows_names "$work/files.img" "$work/at"
cd "$work/at"
mkdir packed plain many 'A folder of a long name' deep
python3 -c 'import os; os.setxattr("packed", "system.ntfs_attrib_be", (0x800).to_bytes(4, "big"))'
seq 30000 > packed/numbers                             # packs well
head -c 300000 /dev/zero > packed/zeros                 # units of nothing
(seq 9000; python3 -c 'import random, sys; sys.stdout.buffer.write(random.Random(20).randbytes(60000))'; seq 9000) > packed/mixed  # some units do not pack
: > packed/empty
printf 'tiny' > packed/tiny
printf 'in its record' > plain/resident
seq 20000 > plain/numbers
truncate -s 3M plain/hole
seq 9 | dd of=plain/hole bs=1 seek=2000000 conv=notrunc status=none
seq 50 > 'A folder of a long name/Übung für später, mit einem langen Namen.txt'
ln -s numbers plain/link
ln plain/numbers plain/second-name
(cd many; seq -f 'file-%g.txt' 1500 | xargs touch; rm file-1*7.txt)
(cd deep; for i in $(seq 40); do mkdir d; cd d; done; echo bottom > end)
for i in $(seq 300); do head -c 1024 /dev/zero | tr '\0' a >> plain/pieces; head -c 1024 /dev/zero | tr '\0' b >> plain/between; sync -f .; done
touch -d 2021-03-04T05:06:07Z plain/numbers
cd /
umount "$work/at"
gzip -9n < "$work/files.img" > "$here/files.img.gz"
rm -r "$work"
