package app.granary.engine.bag;

import app.granary.core.image.ImageName;
import app.granary.core.fault.Fault;
import app.granary.core.fault.FaultException;
import app.granary.engine.openpgp.OpenPgp;
import app.granary.engine.openpgp.Passphrase;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.util.stream.Stream;

/**
 * A finished bag, opened for reading.
 *
 * @param folder     where it lies
 * @param passphrase opens its parts; none when they are not encrypted, or when only their digests are wanted
 */
public record Bag(Path folder, Passphrase passphrase) {
    public static final String MANIFEST = "manifest-sha256.txt";
    public static final String TAG_MANIFEST = "tagmanifest-sha256.txt";
    static final String BAGIT = "BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n";
    /** No manifest of ours comes near this; a longer file is refused unread. */
    private static final long MAX_TAG_FILE = 16L << 20;
    private static final int PARTS_TRIED = 3;
    private static final long MAX_DESCRIPTION = 1L << 30;

    /** @throws app.granary.core.fault.FaultException when nothing in the folder looks like a bag */
    public static Bag open(Path folder) throws IOException {
        return open(folder, Passphrase.NONE);
    }

    /** The same, with what opens its parts; a passphrase for an image that is not encrypted is not used. */
    public static Bag open(Path folder, Passphrase passphrase) throws IOException {
        if (!Files.isDirectory(folder)) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, folder.toString(),
                "There is no image folder " + folder + ". Check the path; its drive may not be attached.").asException();
        }
        if (folder.getFileName() != null && folder.getFileName().toString().endsWith(ImageName.PARTIAL)) {
            throw Fault
                .of(Fault.Kind.NOT_RECOGNISED, folder.toString(),
                    folder + " is an unfinished capture, not an image. Carry it on, or discard it and capture the disk again.")
                .asException();
        }
        boolean any = Stream.of("bagit.txt", MANIFEST, TAG_MANIFEST, "data/image.json")
            .anyMatch(name -> Files.exists(folder.resolve(name)));
        if (!any) {
            throw Fault.of(Fault.Kind.NOT_RECOGNISED, folder.toString(),
                folder + " is no image: it holds neither bagit.txt nor a manifest. Name the image's own folder.").asException();
        }
        return new Bag(folder, passphrase);
    }

    /** Whether a folder looks like a finished image, at no more cost than two looks. */
    public static boolean isBag(Path folder) {
        return Files.isRegularFile(folder.resolve("data/image.json"), LinkOption.NOFOLLOW_LINKS)
            && Files.isRegularFile(folder.resolve(MANIFEST), LinkOption.NOFOLLOW_LINKS);
    }

    /** The description and frame index. */
    public ImageJson.Content content() throws IOException {
        Path file = folder.resolve("data/image.json");
        requireLength(file, MAX_DESCRIPTION);
        try (InputStream in = Files.newInputStream(file, LinkOption.NOFOLLOW_LINKS)) {
            return ImageJson.read(in, "data/image.json");
        }
    }

    /**
     * What its parts are read with: none when they are not encrypted.
     *
     * @throws app.granary.core.fault.FaultException of kind LOCKED when they are and no passphrase was given
     */
    Passphrase passphraseFor(ImageDescription description) throws IOException {
        if (description.encrypted() && passphrase.isNone()) {
            throw Fault.of(Fault.Kind.LOCKED, description.name(),
                "The image " + description.name() + " is encrypted. Enter the passphrase it was made with.").asException();
        }
        return description.encrypted() ? passphrase : Passphrase.NONE;
    }

    /**
     * Tries the passphrase on the first parts, of which one may be damaged. To be said before gigabytes are read.
     *
     * @throws app.granary.core.fault.FaultException of kind LOCKED when it is missing or opens none of them
     */
    public void requireOpens(ImageDescription description) throws IOException {
        Passphrase secret = passphraseFor(description);
        FaultException locked = null;
        for (ImageDescription.Part part : description.parts().subList(0,
            secret.isNone() ? 0 : Math.min(PARTS_TRIED, description.parts().size()))) {
            Path file = folder.resolve("data").resolve(part.name());
            if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
                continue;
            }
            try (InputStream in = new BufferedInputStream(Files.newInputStream(file))) {
                OpenPgp.decrypting(in, secret, "data/" + part.name());
                return;
            } catch (FaultException fault) {
                locked = fault.fault().kind() == Fault.Kind.LOCKED && locked == null ? fault : locked;
            }
        }
        if (locked != null) {
            throw locked;
        }
    }

    public Manifest manifest(String name) throws IOException {
        return Manifest.parse(tagFile(name), name);
    }

    /** A tag file's text, one character a byte, so that a changed bit cannot hide in the decoding. */
    public String tagFile(String name) throws IOException {
        Path file = folder.resolve(name);
        requireLength(file, MAX_TAG_FILE);
        return Files.readString(file, StandardCharsets.ISO_8859_1);
    }

    private static void requireLength(Path file, long most) throws IOException {
        if (!Files.isRegularFile(file, LinkOption.NOFOLLOW_LINKS)) {
            throw Fault.of(Fault.Kind.DAMAGED, file.toString(), file.getFileName() + " is missing.").asException();
        }
        if (Files.size(file) > most) {
            throw Fault
                .of(Fault.Kind.DAMAGED, file.toString(), file.getFileName() + " is longer than " + most + " bytes, which no image needs.")
                .asException();
        }
    }
}
