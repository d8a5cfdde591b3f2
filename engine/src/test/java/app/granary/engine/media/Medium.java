package app.granary.engine.media;

import java.nio.file.Path;

/** Disks made by the system's own tools, each small, each of another geometry. */
public enum Medium {
    GPT_EXT4_AND_FAT("160M", "label: gpt\\nsize=40M,type=U,name=\"boot fat\"\\ntype=L,name=system\\n", "vfat 1 -F 32 -s 1", "ext4 2"),
    GPT_EXT4_1K("40M", "label: gpt\\ntype=L\\n", "ext4 1 -b 1024"),
    GPT_EXT4_2K_NO_FLEX("60M", "label: gpt\\ntype=L\\n", "ext4 1 -b 2048 -O ^flex_bg"),
    GPT_EXT4_UNINIT("300M", "label: gpt\\ntype=L\\n", "ext4 1 -b 1024 -O uninit_bg,^metadata_csum"),
    GPT_EXT4_META_BG("300M", "label: gpt\\ntype=L\\n", "ext4 1 -b 1024 -O meta_bg,^resize_inode"),
    GPT_EXT4_32BIT("300M", "label: gpt\\ntype=L\\n", "ext4 1 -O ^64bit"),
    GPT_EXT4_SPARSE2("300M", "label: gpt\\ntype=L\\n", "ext4 1 -O sparse_super2"),
    GPT_EXT4_BIGALLOC("300M", "label: gpt\\ntype=L\\n", "ext4 1 -O bigalloc -C 16384"),
    GPT_EXT4_CSUM_SEED("300M", "label: gpt\\ntype=L\\n", "ext4 1 -O metadata_csum_seed"),
    MBR_EXT2_AND_LOGICAL("120M", "label: dos\\nsize=30M,type=83,bootable\\ntype=5\\nsize=20M,type=83\\nsize=20M,type=c\\n", "ext2 1", "ext3 5 -J size=4", "vfat 6"),
    MBR_FAT12("16M", "label: dos\\ntype=1\\n", "vfat 1 -F 12 -s 8"),
    MBR_FAT16("64M", "label: dos\\ntype=6\\n", "vfat 1 -F 16"),
    GPT_FAT32_4K_CLUSTERS("600M", "label: gpt\\ntype=U\\n", "vfat 1 -F 32 -s 8"),
    GPT_EXT4_SPARSE_1T("1T", "label: gpt\\ntype=L\\n", "ext4 1");

    private static final int SECTOR = 512;

    private final String size;
    private final String table;
    private final String[] fileSystems;

    Medium(String size, String table, String... fileSystems) {
        this.size = size;
        this.table = table;
        this.fileSystems = fileSystems;
    }

    /** Makes the disk with a few real files on every file system, some of them deleted again. */
    public Path make(Path folder) {
        Path disk = folder.resolve(name().toLowerCase() + ".img");
        Tools.run(folder, "truncate -s " + size + " " + disk + "; printf '" + table + "' | sfdisk -q " + disk);
        for (String fileSystem : fileSystems) {
            String[] words = fileSystem.split(" ", 3);
            format(folder, disk, words[0], words[1], words.length > 2 ? words[2] : "");
        }
        return disk;
    }

    private static void format(Path folder, Path disk, String kind, String number, String options) {
        String place = "read start sectors < <(sfdisk -d " + disk + " | sed -n 's/^.*img" + number + " *: start= *\\([0-9]*\\), size= *\\([0-9]*\\).*/\\1 \\2/p');";
        String content = "rm -rf root; mkdir -p root/gone root/etc; cp /usr/bin/bash root/gone/a; cp /usr/bin/bash root/sh; seq 1 60000 > root/numbers; cp /etc/passwd root/etc/;";
        if (kind.equals("vfat")) {
            Tools.run(folder, place + content + "mkfs.vfat " + options + " -S " + SECTOR + " --offset $start " + disk + " $((sectors / 2)) > made.txt;"
                + "export MTOOLS_SKIP_CHECK=1; mcopy -i " + disk + "@@$((start * 512)) -s root/gone root/numbers root/etc ::/; mdel -i " + disk + "@@$((start * 512)) ::/gone/a");
        } else {
            Tools.run(folder, place + content + "mkfs." + kind + " -q -F " + options + " -E offset=$((start * 512)) -d root " + disk + " $((sectors / 2))k;"
                + "debugfs -w -R 'rm /gone/a' \"" + disk + "?offset=$((start * 512))\"");
        }
    }
}
