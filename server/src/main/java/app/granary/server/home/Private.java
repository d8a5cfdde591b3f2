package app.granary.server.home;

import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermission;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Set;

/** Rights of what only the account that Granary runs under may read. */
public final class Private {
    static final Set<PosixFilePermission> FOLDER = PosixFilePermissions.fromString("rwx------");
    static final Set<PosixFilePermission> FILE = PosixFilePermissions.fromString("rw-------");

    private Private() {
    }

    /** With which a file is made, so that nobody else can open it meanwhile. */
    public static FileAttribute<Set<PosixFilePermission>> file() {
        return PosixFilePermissions.asFileAttribute(FILE);
    }
}
