package app.granary.engine.media;

import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Assumptions;

/** Disks made by the system's own tools, each of another geometry. A file system numbered 0 lies straight on the disk, without a table. */
public enum Medium {
    GPT_EXT4_AND_FAT("64M", "label: gpt\\nsize=40M,type=U,name=\"boot fat\"\\ntype=L,name=system\\n", "vfat 1 -F 32 -s 1", "ext4 2"),
    GPT_EXT4_1K("40M", "label: gpt\\ntype=L\\n", "ext4 1 -b 1024"),
    GPT_EXT4_2K_NO_FLEX("60M", "label: gpt\\ntype=L\\n", "ext4 1 -b 2048 -O ^flex_bg"),
    GPT_EXT4_UNINIT("300M", "label: gpt\\ntype=L\\n", "ext4 1 -b 1024 -O uninit_bg,^metadata_csum"),
    GPT_EXT4_META_BG("300M", "label: gpt\\ntype=L\\n", "ext4 1 -b 1024 -O meta_bg,^resize_inode"),
    GPT_EXT4_32BIT("300M", "label: gpt\\ntype=L\\n", "ext4 1 -O ^64bit"),
    GPT_EXT4_SPARSE2("300M", "label: gpt\\ntype=L\\n", "ext4 1 -O sparse_super2"),
    GPT_EXT4_BIGALLOC("300M", "label: gpt\\ntype=L\\n", "ext4 1 -O bigalloc -C 16384"),
    GPT_EXT4_BIGALLOC_64K("500M", "label: gpt\\ntype=L\\n", "ext4 1 -O bigalloc -C 65536"),
    GPT_EXT4_CSUM_SEED("300M", "label: gpt\\ntype=L\\n", "ext4 1 -O metadata_csum_seed"),
    GPT_EXT4_4K_SECTORS("120M 4096", "label: gpt\\nsize=20M,type=U\\ntype=L\\n", "vfat 1 -S 4096 -s 1", "ext4 2"),
    EXT2_NO_TABLE("8M", "", "ext2 0 -b 1024"),
    EXT3_NO_TABLE("100M", "", "ext3 0 -J size=4"),
    MBR_EXT2_AND_LOGICAL("120M", "label: dos\\nsize=30M,type=83,bootable\\ntype=5\\nsize=20M,type=83\\nsize=20M,type=c\\n", "ext2 1",
        "ext3 5 -J size=4", "vfat 6"),
    MBR_FOUR_LOGICAL("200M",
        "label: dos\\nsize=20M,type=7\\ntype=f\\nsize=20M,type=83\\nsize=30M,type=7\\nsize=20M,type=82\\nsize=20M,type=6\\n",
        "ntfs 1", "ext4 5", "ntfs 6 -c 1024", "swap 7", "vfat 8"),
    MBR_FAT_BOOT_EXT4_LOGICAL("220M", "label: dos\\nsize=40M,type=c,bootable\\nsize=60M,type=83\\ntype=5\\nsize=30M,type=83\\n",
        "vfat 1 -F 32 -s 1", "ext4 2", "ext4 5"),
    MBR_FAT12("16M", "label: dos\\ntype=1\\n", "vfat 1 -F 12 -s 8"),
    FAT12_ONE_MIB("1M", "", "vfat 0 -F 12"),
    FAT12_FEW_ROOT_ENTRIES("4M", "", "vfat 0 -F 12 -r 64 -s 2"),
    MBR_FAT16("64M", "label: dos\\ntype=6\\n", "vfat 1 -F 16"),
    FAT16_ONE_TABLE("40M", "", "vfat 0 -F 16 -f 1 -s 4"),
    GPT_FAT32_4K_CLUSTERS("600M", "label: gpt\\ntype=U\\n", "vfat 1 -F 32 -s 8"),
    FAT32_8K_CLUSTERS("1100M", "", "vfat 0 -F 32 -s 16"),
    FAT32_SPARSE_30G("30G", "", "vfat 0 -F 32 -s 32"),
    GPT_NTFS("16M", "label: gpt\\ntype=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7\\n", "ntfs 1"),
    GPT_NTFS_512_CLUSTERS("60M", "label: gpt\\ntype=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7\\n", "ntfs 1 -c 512"),
    MBR_NTFS_1K_CLUSTERS("80M", "label: dos\\ntype=7,bootable\\n", "ntfs 1 -c 1024"),
    NTFS_2K_CLUSTERS("300M", "", "ntfs 0 -c 2048"),
    NTFS_8K_CLUSTERS("120M", "", "ntfs 0 -c 8192"),
    NTFS_16K_CLUSTERS("160M", "", "ntfs 0 -c 16384"),
    NTFS_64K_CLUSTERS("200M", "", "ntfs 0 -c 65536"),
    GPT_NTFS_4K_SECTORS("300M 4096", "label: gpt\\ntype=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7\\n", "ntfs 1 -s 4096"),
    GPT_FIRMWARE_RESERVED_MAIN_RECOVERY("260M",
        "label: gpt\\nsize=40M,type=U\\nsize=16M,type=E3C9E316-0B5C-4DB8-817D-F92DF00215AE\\nsize=150M,"
            + "type=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7\\ntype=DE94BBA4-06D1-4D40-A16A-BFD50179D6AC\\n",
        "vfat 1 -F 32 -s 1", "ntfs 3", "ntfs 4 -c 4096"),
    NTFS_SPARSE_100G("100G", "", "ntfs 0 -c 65536"),
    NTFS_SPARSE_2T("2T", "", "ntfs 0"),
    GPT_EXFAT_4K_CLUSTERS("64M", "label: gpt\\ntype=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7\\n", "exfat 1 -c 4096"),
    GPT_EXFAT_512_CLUSTERS("16M", "label: gpt\\ntype=EBD0A0A2-B9E5-4433-87C0-68B6B72699C7\\n", "exfat 1 -c 512"),
    MBR_EXFAT("128M", "label: dos\\ntype=7\\n", "exfat 1"),
    EXFAT_32K_CLUSTERS("512M", "", "exfat 0 -c 32768"),
    EXFAT_SPARSE_200G("200G", "", "exfat 0 -c 131072"),
    GPT_SWAP("64M", "label: gpt\\nsize=30M,type=S\\ntype=L\\n", "swap 1", "ext4 2"),
    MBR_SWAP("40M", "label: dos\\ntype=82\\n", "swap 1"),
    GPT_EXT4_SPARSE_1T("1T", "label: gpt\\ntype=L\\n", "ext4 1");

    /** One more whenever the way a disk is made changes otherwise than in the words of its recipe. */
    private static final int VERSION = 1;
    /** The quick tests make do with disks of so many MiB. */
    private static final int QUICK_MIB = 64;
    private static final boolean QUICK = Boolean.getBoolean("granary.quick");
    private static final String CONTENT = "rm -rf root; mkdir -p root/gone root/etc; cp /usr/bin/bash root/gone/a; cp /usr/bin/bash "
        + "root/sh;"
        + "seq 1 60000 > root/numbers; cp /etc/passwd root/etc/; export MTOOLS_SKIP_CHECK=1;";

    private final String size;
    private final int sectorBytes;
    private final String table;
    private final List<String> fileSystems;

    Medium(String sizeAndSector, String table, String... fileSystems) {
        String[] words = sizeAndSector.split(" ");
        this.size = words[0];
        this.sectorBytes = words.length > 1 ? Integer.parseInt(words[1]) : 512;
        this.table = table;
        this.fileSystems = List.of(fileSystems);
    }

    public int sectorBytes() {
        return sectorBytes;
    }

    /** Whether it lies on a table; without one there is a single file system at byte 0. */
    public boolean hasTable() {
        return !table.isEmpty();
    }

    /** Whether every byte of it may be copied in a test. */
    public boolean isSmall() {
        return size.endsWith("M");
    }

    /** The file system made in a partition, {@code "vfat"} and so on; an empty string where none was made. */
    public String fileSystem(int number) {
        return fileSystems.stream().map(each -> each.split(" ")).filter(words -> words[1].equals("" + number)).map(words -> words[0])
            .findFirst().orElse("");
    }

    /**
     * Puts the disk into a folder, with a few real files on every file system, some of them deleted again, so that the map has holes.
     * Beside it lies {@code root} with those files. It is made once per build; the copy may be written to.
     */
    public Path make(Path folder) {
        Assumptions.assumeTrue(!QUICK || isSmall() && Integer.parseInt(size.substring(0, size.length() - 1)) <= QUICK_MIB, name()
            + " is too large for the quick tests");
        OncePerBuild.copy(name().toLowerCase(), size + sectorBytes + table + fileSystems + CONTENT + VERSION, folder, this::makeIn);
        return folder.resolve(name().toLowerCase() + ".img");
    }

    private void makeIn(Path folder) {
        Path disk = folder.resolve(name().toLowerCase() + ".img");
        Tools.run(folder,
            "truncate -s " + size + " " + disk + (hasTable() ? "; printf '" + table + "' > script;" + partition("script", disk) : ""));
        for (String fileSystem : fileSystems) {
            String[] words = fileSystem.split(" ", 3);
            format(folder, disk, words[0], Integer.parseInt(words[1]), words.length > 2 ? words[2] : "");
        }
        Tools.run(folder, "rm -f part made.txt fdisk.txt dumped script");
    }

    /**
     * A command that makes the table a script describes. Only fdisk can be told that a file has large sectors; it takes sfdisk's scripts.
     */
    public String partition(String script, Path disk) {
        return sectorBytes == 512 ? "sfdisk -q " + disk + " < " + script
            : "printf 'I\\n" + script + "\\nw\\n' | fdisk -b " + sectorBytes + " " + disk + " > fdisk.txt";
    }

    /** A command that prints the table as such a script. */
    public String dump(Path disk) {
        return sectorBytes == 512 ? "sfdisk -d " + disk
            : "(rm -f dumped; printf 'O\\ndumped\\nq\\n' | fdisk -b " + sectorBytes + " " + disk + " > fdisk.txt; cat dumped)";
    }

    private void format(Path folder, Path disk, String kind, int number, String options) {
        String place = number == 0 ? "start=0; bytes=$(stat -c %s " + disk + ");" : "read start bytes < <(" + dump(disk)
            + " | sed -n 's/^.*img" + number + " *: start= *\\([0-9]*\\), size= *\\([0-9]*\\).*/\\1 \\2/p'); start=$((start * "
            + sectorBytes + ")); bytes=$((bytes * " + sectorBytes + "));";
        if (kind.startsWith("ext")) {
            Tools.run(folder, place + CONTENT + (size.equals("8M") ? "rm root/gone/a; seq 1 9000 > root/gone/a;" : "") + "mkfs." + kind
                + " -q -F " + options
                + " -E offset=$start -d root " + disk + " $((bytes / 1024))k; debugfs -w -R 'rm /gone/a' \"" + disk + "?offset=$start\"");
            return;
        }
        String part = number == 0 ? disk.toString() : "part";
        String made = switch (kind) {
            case "vfat" -> "mkfs.vfat " + options + " " + part + " > made.txt; "
                + (size.equals("1M") ? "rm root/gone/a root/sh; seq 1 9000 > root/gone/a; seq 5 > root/sh;" : "")
                + (size.equals("4M") ? "truncate -s 900000 root/gone/a root/sh;" : "") + "mcopy -i " + part
                + " -s root/gone root/sh root/numbers root/etc ::/; mdel -i " + part + " ::/gone/a";
            // overwriting a file with a shorter one frees the end of it
            case "ntfs" ->
                "mkntfs -q -Q -F " + options + " " + part + " > made.txt; for f in gone/a sh numbers etc/passwd; do ntfscp -f -q " + part
                    + " root/$f $(basename $f) > made.txt; done; seq 1 500 > short; ntfscp -f -q " + part
                    + " short a > made.txt; ntfscp -f -q " + part + " root/sh later > made.txt";
            case "exfat" -> "mkfs.exfat " + options + " " + part + " > made.txt";
            case "swap" -> "mkswap -q " + part;
            default -> throw new IllegalArgumentException(kind);
        };
        String into = number == 0 ? "" : "; dd if=part of=" + disk + " bs=1M oflag=seek_bytes seek=$start conv=notrunc,sparse status=none";
        Tools.run(folder, place + CONTENT + (number == 0 ? "" : "rm -f part; truncate -s $bytes part;") + made + into);
        if (kind.equals("exfat")) {
            ExfatFiles.add(folder, disk, place);
        }
    }
}
