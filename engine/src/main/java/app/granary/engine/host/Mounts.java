package app.granary.engine.host;

import app.granary.engine.tool.MountTable;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;

/**
 * What is mounted here, as {@code /proc/self/mountinfo} tells it: mount id, parent, device, root, mount point, options, optional fields, a
 * dash, kind, source, options of the file system; blanks in names are written as octal numbers (proc(5)).
 */
final class Mounts {
    private static final Path NOW = Path.of("/proc/self/mountinfo");
    private static final Set<String> NETWORK = Set.of("cifs", "smb3", "nfs", "nfs4", "9p", "afs", "ceph", "glusterfs", "davfs");
    private static final String FUSE = "fuse";
    /** What hangs off a desktop session or the system itself, and holds no files of anybody's. */
    private static final Set<String> NOT_FILES = Set.of("fuse.portal", "fuse.gvfsd-fuse", "fuse.lxcfs", "fuse.snapfuse", "fusectl");
    private static final Set<String> MADE_UP = Set.of("proc", "sysfs", "tmpfs", "devtmpfs", "devpts", "cgroup", "cgroup2", "overlay",
        "squashfs", "mqueue", "debugfs", "tracefs", "securityfs", "pstore", "bpf", "autofs", "hugetlbfs", "configfs", "rpc_pipefs", "nsfs",
        "binfmt_misc", "ramfs", "efivarfs", "selinuxfs");

    private Mounts() {
    }

    /**
     * A mounted file system.
     *
     * @param root   which of its folders stands at the mount point; "/" for all of it, another where it is a bind mount
     * @param point  where
     * @param kind   "cifs", "nfs4", "ext4"
     * @param source "//server/share", "server:/export", "/dev/sdb1"
     */
    record Mount(String root, Path point, String kind, String source) {
        /** Whether its bytes lie on another machine, or come through a program. */
        boolean elsewhere() {
            return NETWORK.contains(kind) || kind.startsWith(FUSE) && !NOT_FILES.contains(kind);
        }

        /** Whether it holds files at all. */
        boolean holdsFiles() {
            return !MADE_UP.contains(kind) && !NOT_FILES.contains(kind);
        }

        /** What it is, whatever path it is mounted at. */
        String identity() {
            return (kind.startsWith("nfs") ? "nfs" : kind) + " " + source + " " + root;
        }

        /** The machine it lies on; an empty string where the source does not tell. */
        String server() {
            if (source.startsWith("//")) {
                return source.substring(2).split("/", 2)[0];
            }
            int colon = source.indexOf(":/");
            String host = colon > 0 ? source.substring(0, colon) : "";
            return host.substring(host.indexOf('@') + 1);
        }

        /** In words. */
        String where() {
            String from = server().isEmpty() ? source : "on " + server() + ", " + source;
            return from + ", mounted at " + point;
        }

        /** As short as a name can be: the last of where it comes from. */
        String label() {
            String last = (root.equals("/") ? source : root).replaceAll("/+$", "");
            last = last.substring(last.lastIndexOf('/') + 1);
            last = last.substring(last.lastIndexOf(':') + 1);
            return last.isEmpty() ? String.valueOf(point.getFileName()) : last;
        }
    }

    /** In the order they were mounted; where one lies over another, the upper one alone. Nothing on a system without such a list. */
    static List<Mount> now() throws IOException {
        return Files.isReadable(NOW) ? parse(Files.readAllLines(NOW, StandardCharsets.UTF_8)) : List.of();
    }

    static List<Mount> parse(List<String> lines) {
        List<Mount> out = new ArrayList<>();
        for (String line : lines) {
            String[] fields = line.split(" ");
            int dash = Arrays.asList(fields).indexOf("-");
            if (dash >= 6 && fields.length > dash + 2 && fields[4].startsWith("/")) {
                Mount mount = new Mount(MountTable.plain(fields[3]), Path.of(MountTable.plain(fields[4])), fields[dash + 1],
                    MountTable.plain(fields[dash + 2]));
                out.removeIf(below -> below.point.equals(mount.point));
                out.add(mount);
            }
        }
        return out;
    }
}
