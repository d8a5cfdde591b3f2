package app.granary.engine.restore;

import app.granary.engine.progress.Rest;
import app.granary.engine.source.Folders;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;

/**
 * Whether a machine made of software should use the processor's own virtualisation. Where Granary's machine is itself a virtual one, that
 * can be had and yet be fifty times slower than doing without: 12 s until the firmware has started a disk, against 0.2 s (measured). So it
 * is tried once, on a disk of one sector, and used when that starts soon.
 */
final class Acceleration {
    private static final Path KVM = Path.of("/dev/kvm");
    private static final long PATIENCE_MILLIS = 2_000;
    private static final long LOOK_MILLIS = 20;
    private static final int SECTOR = 512;
    /** 16-bit: mov dx, 0x3F8; mov al, '+'; out dx, al; cli; end: hlt; jmp end. */
    private static final byte[] CODE = {(byte) 0xBA, (byte) 0xF8, 0x03, (byte) 0xB0, '+', (byte) 0xEE, (byte) 0xFA, (byte) 0xF4,
        (byte) 0xEB, (byte) 0xFD};

    /** Empty until it was tried; tried once for all. */
    private static Optional<Boolean> known = Optional.empty();

    private Acceleration() {
    }

    /** Whether it can be had, and a machine with it starts a disk within two seconds. */
    static synchronized boolean isQuick() throws IOException {
        if (known.isEmpty()) {
            known = Optional.of(Files.isWritable(KVM) && startsSoon("-enable-kvm"));
        }
        return known.orElseThrow();
    }

    /** Whether a machine that runs in some way says over its serial line, soon, that it has started its disk. */
    static boolean startsSoon(String... how) throws IOException {
        Path folder = Files.createTempDirectory("granary-try-");
        try {
            byte[] disk = Arrays.copyOf(CODE, SECTOR);
            disk[SECTOR - 2] = 0x55;
            disk[SECTOR - 1] = (byte) 0xAA;
            Files.write(folder.resolve("disk"), disk);
            return says(folder, how);
        } catch (InterruptedException stopped) {
            throw Rest.interrupted();
        } finally {
            Folders.delete(folder);
        }
    }

    private static boolean says(Path folder, String... how) throws IOException, InterruptedException {
        Path said = folder.resolve("said");
        List<String> command = new ArrayList<>(List.of(Qemu.PROGRAM, "-nodefaults", "-m", "64", "-vga", "std", "-display", "none", "-nic",
            "none", "-serial", "file:" + said, "-drive", "file=" + Qemu.quoted(folder.resolve("disk").toString()) + ",format=raw,if=ide"));
        command.addAll(List.of(how));
        Process machine = new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(folder.resolve("monitor").toFile()).start();
        try {
            for (long waited = 0; waited < PATIENCE_MILLIS && machine.isAlive(); waited += LOOK_MILLIS) {
                Thread.sleep(LOOK_MILLIS);
                if (Files.exists(said) && Files.size(said) > 0) {
                    return true;
                }
            }
            return false;
        } finally {
            machine.destroyForcibly().waitFor(PATIENCE_MILLIS, TimeUnit.MILLISECONDS);
        }
    }
}
