package app.granary.engine.remote;

import app.granary.core.fault.Fault;
import app.granary.core.image.ImageName;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * What of a folder is served for one image: the image, what is unfinished of it, and a look at the folders on the way.
 *
 * @param root   a real path, without links
 * @param images the folder in it, relative, that the image lies in; empty for the folder itself
 * @param name   of the image
 */
record Bounds(Path root, String images, String name) {
    /** Whether it is, or lies in, the image or what is unfinished of it. */
    boolean ofTheImage(String path) {
        String below = images.isEmpty() ? path : path.startsWith(images + "/") ? path.substring(images.length() + 1) : "";
        String first = below.indexOf('/') < 0 ? below : below.substring(0, below.indexOf('/'));
        return first.equals(name) || first.startsWith(name + ImageName.PARTIAL);
    }

    /** Folders on the way to it may be looked at. */
    private boolean onTheWay(String path) {
        return path.isEmpty() || path.equals(images) || images.startsWith(path + "/");
    }

    static IOException refused(String path, String why) {
        return Fault.of(Fault.Kind.FORBIDDEN, path, why).asException();
    }

    /** @throws app.granary.core.fault.FaultException when it is no path within the folder */
    Path inside(String path) throws IOException {
        if (!ofTheImage(path) && !onTheWay(path)) {
            throw refused(path, "\"" + path + "\" is nothing of the image " + name + ".");
        }
        Path out = root;
        for (String part : path.isEmpty() ? new String[0] : path.split("/", -1)) {
            if (part.isEmpty() || part.equals(".") || part.equals("..") || part.length() > 255 || part.indexOf('\\') >= 0
                || part.chars().anyMatch(Character::isISOControl)) {
                throw refused(path, "\"" + path + "\" is no path within the folder.");
            }
            out = out.resolve(part);
            if (Files.isSymbolicLink(out)) {
                throw refused(path, "\"" + path + "\" leads over a link.");
            }
        }
        return out;
    }
}
