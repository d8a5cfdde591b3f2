package app.granary.engine.bag;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.disk.DiskIdentity;
import app.granary.core.filesystem.DiskSurvey;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.core.image.ImageName;
import app.granary.engine.capture.Capture;
import app.granary.engine.capture.CaptureRequest;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Medium;
import app.granary.engine.media.Tools;
import app.granary.engine.openpgp.Passphrase;
import app.granary.engine.progress.Watch;
import app.granary.engine.restore.Restore;
import app.granary.engine.source.RawSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Every command that docs/format.md tells an outsider is run as it stands there, and gives the disk back. */
class FormatDocTest {
    private static final String SECRET = "plain words";

    @TempDir
    Path folder;

    private static List<String> commands() throws IOException {
        String text = Files.readString(Path.of("../docs/format.md"));
        String byHand = text.substring(text.indexOf("## By hand"), text.indexOf("## Chunks and frames"));
        return byHand.lines().filter(line -> line.startsWith("    ")).map(line -> line.strip().replaceAll("\\s+#.*", "")).toList();
    }

    private Path capture(Path disk, String name, Codec codec, Passphrase passphrase) throws IOException {
        try (RawSource source = RawSource.open(disk)) {
            return Capture.run(source, DiskSurvey.of(source, SurveyChoice.USED),
                new CaptureRequest(ImageName.parse(name), codec, codec.usualLevel(),
                    OptionalLong.of(codec == Codec.NONE ? 60_000_000 : 1_500_000), passphrase,
                    new DiskIdentity("m", "s", source.sizeBytes()), true),
                folder, Clock.systemUTC(), Watch.NONE).bag();
        }
    }

    /**
     * qemu-img compares the restored file with what Granary itself restores; gpg is given the passphrase by a file, since nobody types
     * here.
     */
    @Test
    void everyCommandGivesTheDiskBack() throws IOException {
        Path disk = Medium.GPT_EXT4_AND_FAT.make(folder);
        List<String> commands = commands();
        assertEquals("cd NAME", commands.get(0));
        int restoring = 0;
        for (String command : commands) {
            Codec codec = command.contains(".gz.") ? Codec.GZIP
                : command.contains(".xz.") ? Codec.XZ : command.contains("[0-9]") ? Codec.NONE : Codec.ZSTD;
            Passphrase secret = command.contains("gpg") ? Passphrase.of(SECRET.toCharArray()) : Passphrase.NONE;
            Path bag = capture(disk, "NAME", codec, secret);
            Path ours = folder.resolve("ours.img");
            Restore.toFile(Bag.open(bag, secret), ours, Watch.NONE);
            Path target = folder.resolve("target.img");
            if (command.startsWith("sfdisk")) {
                Tools.run(folder, "truncate -s 64M target.img");
            }
            String quiet = command.replace("TARGET", target.toString()).replace("gpg -d",
                "gpg -q --batch --homedir ../keys --pinentry-mode loopback --passphrase-file ../keys/word -d");
            Tools.run(folder, "mkdir -p -m 700 keys; printf '%s' '" + SECRET + "' > keys/word; cd NAME; "
                + (command.startsWith("cd") ? "pwd" : quiet + " 2>&1"));
            if (command.startsWith("sfdisk")) {
                assertEquals(Tools.run(folder, "sfdisk -d " + disk + " | grep start= | sed 's/.*: //'"),
                    Tools.run(folder, "sfdisk -d target.img | grep start= | sed 's/.*: //'"));
            } else if (command.contains("TARGET")) {
                assertTrue(Tools.run(folder, "qemu-img compare -f raw -F raw ours.img target.img").contains("Images are identical."),
                    command);
                restoring++;
            }
            Tools.run(folder, "rm -rf NAME ours.img target.img");
        }
        assertEquals(5, restoring, commands.toString());
    }

    /** The codecs' own tests of their streams, NTFS and ext as their own tools see them, and a conversion, on images of every codec. */
    @Test
    void theSystemsOwnToolsFindNothingWrong() throws IOException {
        Path ext = Medium.GPT_EXT4_AND_FAT.make(folder);
        Path ntfs = Medium.MBR_NTFS_1K_CLUSTERS.make(folder);
        for (String[] each : new String[][] {{"ZSTD", "zstd -t", "zstd -dc"}, {"STORED", "zstd -t", "zstd -dc"}, {"GZIP", "gzip -t",
            "gzip -dc"}, {"XZ", "xz -t", "xz -dc"},
            {"NONE", "cat > /dev/null", "cat"}}) {
            for (Passphrase secret : List.of(Passphrase.NONE, Passphrase.of(SECRET.toCharArray()))) {
                capture(ext, "e", Codec.valueOf(each[0]), secret);
                capture(ntfs, "n", Codec.valueOf(each[0]), secret);
                String open = secret.isNone() ? "cat %s/data/disk.img*"
                    : "{ for p in %s/data/*.gpg; do gpg -q --batch --homedir keys --pinentry-mode loopback --passphrase-file keys/word "
                        + "-d $p || exit 1; done; }";
                Tools.run(folder,
                    "mkdir -p -m 700 keys; printf '%s' '" + SECRET + "' > keys/word; " + open.formatted("e") + " | " + each[1]);
                Tools.run(folder,
                    open.formatted("e") + " | " + each[2] + " > e.img; e2fsck -fn 'e.img?offset=" + 41 * (1L << 20) + "' 2>&1");
                Tools.run(folder, open.formatted("n") + " | " + each[2]
                    + " > n.img; dd if=n.img of=n1.img bs=1M skip=1 2>/dev/null; ntfsfix -n n1.img 2>&1");
                Tools.run(folder,
                    "qemu-img convert -f raw -O qcow2 e.img e.qcow2; qemu-img compare -f raw -F qcow2 e.img e.qcow2; rm -rf e n e.img "
                        + "n.img n1.img e.qcow2");
            }
        }
    }
}
