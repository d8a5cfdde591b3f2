package app.granary.core.filesystem;

import app.granary.core.disk.Bytes;

/** Which of the file systems that Granary reads by their maps the first bytes of a partition tell of. Nothing else decides that. */
enum Signature {
    EXT,
    NTFS,
    EXFAT,
    FAT,
    /** None of them; it may be another that is known by name, swap space, or nothing. */
    NONE;

    /** As many bytes as it needs. */
    static final int BYTES = 4096;

    static Signature of(Bytes head) {
        return ExtSuperblock.looksLikeExt(head) ? EXT
            : NtfsGeometry.looksLikeNtfs(head) ? NTFS
            : ExfatGeometry.looksLikeExfat(head) ? EXFAT
            : FatGeometry.looksLikeFat(head) ? FAT : NONE;
    }
}
