package app.granary.engine.host;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.destination.Destination;
import app.granary.core.filesystem.SurveyChoice;
import app.granary.engine.codec.Codec;
import app.granary.engine.media.Tools;
import app.granary.engine.progress.Progress;
import app.granary.engine.progress.Watch;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is mounted is held against findmnt (util-linux); a file system in a program is ntfs-3g's. */
class NetworkFoldersTest {
    @TempDir
    Path folder;

    @AfterEach
    void unmount() {
        Tools.run(folder, "for at in there again bound; do umount -l $at 2> /dev/null || true; done");
    }

    /** Fields by proc(5); what smb3 and nfs write as their source from memory. */
    @Test
    void eachMountIsToldWithItsServer() {
        List<Mounts.Mount> mounts = Mounts.parse(List.of(
            "27 1 254:0 / / rw,relatime shared:1 - ext4 /dev/vda rw",
            "61 27 0:52 / /srv/the\\040office rw,relatime - cifs //barn/office\\040backup rw,vers=3.1.1",
            "62 27 0:53 / /n rw - nfs4 larder:/export/images rw,vers=4.2",
            "63 27 0:54 /below /home/u/s rw - fuse.sshfs tech@oast:/data rw", "64 27 0:55 / /run/user/1/gvfs rw - fuse.gvfsd-fuse g rw",
            "65 27 0:56 / /n rw - nfs larder:/export/other rw", "66 27 0:57 / /proc rw - proc proc rw", "nonsense", "1 2 3 4 5 - 7", ""));
        assertEquals(List.of("/ ext4 ", "/srv/the office cifs barn", "/home/u/s fuse.sshfs oast", "/run/user/1/gvfs fuse.gvfsd-fuse ",
            "/n nfs larder", "/proc proc "),
            mounts.stream().map(each -> each.point() + " " + each.kind() + " " + each.server()).toList());
        assertEquals(List.of("cifs", "fuse.sshfs", "nfs"),
            mounts.stream().filter(Mounts.Mount::elsewhere).map(Mounts.Mount::kind).toList());
        assertEquals("office backup", mounts.get(1).label());
        assertEquals("on barn, //barn/office backup, mounted at /srv/the office", mounts.get(1).where());
        assertEquals("below", mounts.get(2).label());
    }

    /** Of two at one place the system shows the upper one, findmnt tells both. Other tests mount at the same time: looked at again. */
    @Test
    void whatIsMountedIsWhatFindmntTells() throws IOException {
        boolean same = false;
        for (int look = 0; look < 20 && !same; look++) {
            List<String> theirs = Tools.run(folder, "findmnt --raw --noheadings -o TARGET,FSTYPE").lines().toList();
            List<String> ours = Mounts.now().stream().map(each -> each.point().toString().replace(" ", "\\x20") + " "
                + each.kind()).toList();
            same = theirs.containsAll(ours) && points(theirs).equals(points(ours));
        }
        assertTrue(same);
    }

    private static Set<String> points(List<String> mounts) {
        return mounts.stream().map(each -> each.split(" ")[0]).collect(java.util.stream.Collectors.toSet());
    }

    /** It is asked again only once it has answered: no thread more for each look. */
    @Test
    void whoHangsHoldsUpNobody() {
        Patience patience = new Patience(Duration.ofMillis(50));
        AtomicInteger asked = new AtomicInteger();
        Object never = new Object();
        for (int i = 0; i < 20; i++) {
            assertEquals(Optional.empty(), patience.ask("nas", () -> {
                asked.incrementAndGet();
                synchronized (never) {
                    while (true) {
                        wait(never);
                    }
                }
            }));
        }
        assertEquals(1, asked.get());
        assertEquals(Optional.of(7), patience.ask("other", () -> 7));
        assertEquals(Optional.empty(), patience.ask("third", () -> {
            throw new IOException("stale");
        }));
    }

    private static void wait(Object never) throws IOException {
        try {
            never.wait();
        } catch (InterruptedException stopped) {
            throw new IOException(stopped);
        }
    }

    private MachineHost host(List<Path> named) throws IOException {
        return new MachineHost("barn", Files.createDirectories(folder.resolve("disks")), folder.resolve("images"),
            folder.resolve("scratch"),
            Clock.systemUTC(), Set.of("none"), named);
    }

    private Optional<Destination> mountedAt(MachineHost host, String name) throws IOException {
        return host.store().destinations().stream().filter(each -> each.place().endsWith("mounted at " + folder.resolve(name))).findFirst();
    }

    private void mount(String at) {
        String done = Tools.run(folder, "[ -e drive.img ] || { truncate -s 64M drive.img; mkntfs -Q -F -L x drive.img > made.txt 2>&1; }; "
            + "mkdir -p " + at + "; ntfs-3g \"$PWD/drive.img\" \"$PWD/" + at + "\" 2> said.txt && echo yes || echo no").strip();
        Assumptions.assumeTrue(done.endsWith("yes"), "no file system in a program may be mounted here");
    }

    /** Mounted at another path it is the same destination; gone in the middle of a run, the run ends and nothing has its name. */
    @Test
    void aFolderThroughAProgramIsADestinationUntilItIsGone() throws IOException {
        Tools.run(folder, "mkdir -p disks; head -c 30M /dev/urandom > disks/noise.img");
        mount("there");
        MachineHost host = host(List.of());
        Destination there = mountedAt(host, "there").orElseThrow();
        assertEquals(Links.GIGABIT, there.writeRateBytes());
        assertEquals(Tools.run(folder, "df -B1 --output=avail there | tail -1").strip(), "" + there.freeBytes());
        String disk = host.devices().computers().get(0).disks().get(0).id();
        Storage storage = new Storage(Codec.ZSTD, 1, OptionalLong.empty(), SurveyChoice.ALL_BLOCKS);
        host.imaging().capture(disk, there.id(), "first", storage, Watch.NONE);
        Tools.run(folder, "test -f there/granary-images/first/manifest-sha256.txt; umount there");
        assertEquals(Optional.empty(), mountedAt(host, "there"));
        mount("again");
        assertEquals(there.id(), mountedAt(host, "again").orElseThrow().id());
        Watch pulls = new Watch() {
            private boolean gone;

            @Override
            public void advanced(Progress progress) {
                if (!gone && progress.stage() == Progress.Stage.CAPTURING && progress.doneBytes() > 5_000_000) {
                    gone = true;
                    Tools.run(folder, "pkill -9 -f \"ntfs-3g $PWD/drive.img\" || true");
                }
            }

            @Override
            public boolean stopRequested() {
                return false;
            }
        };
        assertThrows(IOException.class, () -> host.imaging().capture(disk, there.id(), "second", storage, pulls));
        assertEquals(Optional.empty(), mountedAt(host, "again"), "a mount whose program died is not attached");
        Tools.run(folder, "umount -l again; rmdir again");
        mount("there");
        Tools.run(folder, "test ! -e there/granary-images/second; test -e there/granary-images/first");
    }

    /** A folder the office names is one, and so is what is mounted in it; told apart by what is mounted. */
    @Test
    void foldersTheOfficeNamesAreDestinations() throws IOException {
        Path own = Files.createDirectories(folder.resolve("srv/own"));
        List<String> places = host(List.of(own,
            folder.resolve("missing"))).store().destinations().stream().map(Destination::place).toList();
        assertTrue(places.contains(own.toString()), places.toString());
        Path bound = Files.createDirectories(folder.resolve("bound"));
        boolean may = Tools.run(folder, "mount --bind srv bound 2> said.txt && echo yes || echo no").strip().equals("yes");
        Assumptions.assumeTrue(may, "nothing may be mounted here");
        // a file may be a mount point, too: for one, what tools make smaller is shown as one
        Tools.run(folder, "touch bound/file bound/other; mount --bind bound/file bound/other");
        try {
            List<Destination> found = host(List.of(bound)).store().destinations();
            assertEquals(List.of("srv"), found.stream().filter(each -> each.place().contains("/bound")).map(Destination::name).toList());
        } finally {
            Tools.run(folder, "umount bound/other");
        }
    }
}
