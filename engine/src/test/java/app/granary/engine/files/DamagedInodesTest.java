package app.granary.engine.files;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.fault.FaultException;
import app.granary.core.filesystem.FileEntry;
import app.granary.engine.media.Damaged;
import app.granary.engine.media.Tools;
import app.granary.engine.source.RawSource;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DamagedInodesTest {
    @TempDir
    Path folder;

    /** However many read them, those whose inodes are damaged are told as such, and all others as they are. debugfs says where they lie. */
    @Test
    void damagedInodesHideNoneOfTheOthers() throws Exception {
        Tools.run(folder, "mkdir -p in/many; (cd in/many; seq -f 'file-%05g' 3000 | xargs touch); "
            + "mkfs.ext4 -q -F -b 4096 -d in ext.img 60M; "
            + "debugfs -R 'stat /many/file-00500' ext.img 2>/dev/null | sed -n 's/^Inode: \\([0-9]*\\).*/<\\1>/p' > inode; "
            + "debugfs -R \"imap $(cat inode)\" ext.img 2>/dev/null | sed -n 's/.*located at block \\([0-9]*\\).*/\\1/p' > block");
        long block = Long.parseLong(Files.readString(folder.resolve("block")).strip());
        int blockBytes = 4096;
        RawSource sound = RawSource.open(folder.resolve("ext.img"));
        try (Damaged source = new Damaged(sound, block * blockBytes, (block + 1) * blockBytes)) {
            List<FileEntry> found = new DiskFiles(source).list(FilePlace.parse("0:/many"));
            List<FileEntry> lost = found.stream().filter(each -> !each.unreadable().isEmpty()).toList();
            assertEquals(3_000, found.size());
            assertTrue(lost.stream().anyMatch(each -> each.name().equals("file-00500")), lost.toString());
            assertEquals(blockBytes / 256, lost.size(), "of a block, inodes of 256 bytes");
            assertTrue(found.stream().allMatch(each -> each.kind() == FileEntry.Kind.FILE), "the folder says what they are");
            FaultException told = assertThrows(FaultException.class, () -> new DiskFiles(source).content(FilePlace.parse(
                "0:/many/file-00500")));
            assertEquals("Damaged here.", told.fault().sentence());
        }
    }
}
