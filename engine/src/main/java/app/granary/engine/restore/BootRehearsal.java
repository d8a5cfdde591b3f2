package app.granary.engine.restore;

import app.granary.core.disk.BlockSource;
import app.granary.engine.nbd.NbdServer;
import app.granary.engine.progress.Rest;
import app.granary.engine.source.Folders;
import java.awt.image.BufferedImage;
import java.io.BufferedWriter;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import javax.imageio.ImageIO;

/**
 * Starts a disk, or an image as the disk it was made of, in a machine without network, made of software, and keeps what its screen shows.
 * The machine reads it as it needs it; what it writes is kept apart and thrown away.
 */
public final class BootRehearsal {
    /** A look does not count when the machine was kept waiting for more than this part of it, one in so many. */
    private static final int HELD_UP = 5;
    /** On a busy machine it takes so many times as long at most. */
    private static final int BUSY_FACTOR = 4;
    private static final int MEMORY_MIB = 512;
    private static final long LOOK_MILLIS = 500;
    private static final Duration LOOK = Duration.ofMillis(LOOK_MILLIS);
    /** Of that, until a picture that was asked for is there. */
    private static final long PICTURE_MILLIS = 100;
    private static final long LAST_PICTURE_MILLIS = 20_000;
    /**
     * A screen that stays the same for as long has come to rest; sooner when the system has said something over its serial line, which
     * firmware does not.
     */
    private static final int RESTS_LOOKS = 24;
    private static final int RESTS_LOOKS_SAID = 5;
    /** One that has said something, does nothing and reads nothing of its disk has come to rest even sooner. */
    private static final int QUIET_LOOKS_SAID = 2;
    private static final int LONGEST_SERIAL = 20_000;

    private BootRehearsal() {
    }

    /**
     * What was seen.
     *
     * @param picture of the screen, PNG; empty when there is none. Not to be changed
     * @param rested  whether the screen came to rest; a system still starting shows other pictures all the time
     * @param heldUp  whether it was left because this machine was too busy to let it run
     * @param serial  what it sent over its serial line, at most 20 000 characters; usually empty
     */
    public record Seen(byte[] picture, boolean rested, boolean heldUp, String serial) {
    }

    /** Where the program is; empty where it is not installed. */
    public static Optional<Path> program() {
        return Qemu.program();
    }

    /**
     * @param disk     stays its owner's to close; it is not changed
     * @param uefi     whether the machine has UEFI firmware; needs the package {@code ovmf}
     * @param patience how long the system may take at most
     */
    public static Seen run(BlockSource disk, boolean uefi, Duration patience) throws IOException {
        List<String> command = Qemu.machine(MEMORY_MIB, uefi, "rehearse without starting it");
        Path folder = Files.createTempDirectory("granary-boot-");
        MachineActivity activity = new MachineActivity();
        try (NbdServer server = NbdServer.onSocket(folder.resolve("disk"), activity.watched(disk), "disk")) {
            return run(command, server.uri(), folder, activity, patience);
        } finally {
            Folders.delete(folder);
        }
    }

    private static Seen run(List<String> machineCommand, String disk, Path folder, MachineActivity activity,
        Duration patience) throws IOException {
        Path serial = folder.resolve("serial");
        Path screen = folder.resolve("screen.ppm");
        List<String> command = new ArrayList<>(machineCommand);
        command.addAll(List.of("-display", "none", "-nic", "none", "-snapshot", "-serial", "file:" + serial, "-drive", "file="
            + Qemu.quoted(disk) + ",format=raw,if=ide"));
        ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(folder.resolve("monitor").toFile());
        builder.environment().put("TMPDIR", folder.toString()); // where what the machine writes is kept
        Process machine = builder.start();
        try (BufferedWriter monitor = new BufferedWriter(new OutputStreamWriter(machine.getOutputStream(), StandardCharsets.US_ASCII))) {
            Ending ending = watch(machine, activity, monitor, screen, serial, patience);
            if (!Files.exists(screen)) {
                takeLast(machine, monitor, screen);
            }
            byte[] kept = png(screen);
            monitor.write("quit\n");
            monitor.flush();
            machine.waitFor(5, TimeUnit.SECONDS);
            String said = Files.exists(serial) ? new String(Files.readAllBytes(serial), StandardCharsets.ISO_8859_1) : "";
            return new Seen(kept, ending == Ending.RESTED, ending == Ending.HELD_UP,
                said.substring(0, Math.min(LONGEST_SERIAL, said.length())));
        } catch (InterruptedException stopped) {
            throw Rest.interrupted();
        } finally {
            machine.destroyForcibly();
        }
    }

    private enum Ending { RESTED, LEFT, HELD_UP }

    private static void ask(BufferedWriter monitor, Path screen) throws IOException {
        monitor.write("screendump " + screen + "\n");
        monitor.flush();
    }

    /** A machine that was never let run for long enough to be looked at still shows something. */
    private static void takeLast(Process machine, BufferedWriter monitor, Path screen) throws IOException, InterruptedException {
        for (long waited = 0; waited < LAST_PICTURE_MILLIS && machine.isAlive() && png(screen).length == 0; waited += LOOK_MILLIS) {
            ask(monitor, screen);
            Thread.sleep(LOOK_MILLIS);
        }
    }

    private static Ending watch(Process machine, MachineActivity activity, BufferedWriter monitor, Path screen, Path serial,
        Duration patience) throws IOException, InterruptedException {
        byte[] before = new byte[0];
        byte[] beforeThat = new byte[0]; // a cursor that blinks shows two pictures in turn
        int same = 0;
        long looks = patience.toMillis() / LOOK_MILLIS;
        int look = 0;
        int quiet = 0;
        activity.look(machine);
        for (int all = 0; look < looks && all < looks * BUSY_FACTOR && machine.isAlive(); all++) {
            Thread.sleep(LOOK_MILLIS - PICTURE_MILLIS);
            MachineActivity.Since since = activity.look(machine);
            if (since.waitedNanos() > LOOK_MILLIS * 1_000_000L / HELD_UP) {
                continue; // a picture that stays the same says nothing of a machine that is not let run
            }
            look++;
            ask(monitor, screen);
            Thread.sleep(PICTURE_MILLIS);
            byte[] now = Files.exists(screen) ? Files.readAllBytes(screen) : new byte[0];
            same = now.length > 0 && (Arrays.equals(now, before) || Arrays.equals(now, beforeThat)) ? same + 1 : 0;
            quiet = same > 0 && since.quiet(LOOK) ? quiet + 1 : 0;
            beforeThat = before;
            before = now;
            boolean said = Files.exists(serial) && Files.size(serial) > 0;
            if (same >= (said ? RESTS_LOOKS_SAID : RESTS_LOOKS) || said && quiet >= QUIET_LOOKS_SAID) {
                return Ending.RESTED;
            }
        }
        return look < looks && machine.isAlive() ? Ending.HELD_UP : Ending.LEFT;
    }

    /** Portable pixmap, P6, eight bits a channel (netpbm, ppm(5), from memory); empty where there is none, or not all of it yet. */
    private static byte[] png(Path screen) throws IOException {
        if (!Files.exists(screen)) {
            return new byte[0];
        }
        try (DataInputStream in = new DataInputStream(new java.io.BufferedInputStream(Files.newInputStream(screen)))) {
            if (!word(in).equals("P6")) {
                return new byte[0];
            }
            int width = number(word(in));
            int height = number(word(in));
            if (number(word(in)) != 255 || width < 1 || height < 1) {
                return new byte[0];
            }
            BufferedImage out = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
            byte[] row = new byte[width * 3];
            for (int y = 0; y < height; y++) {
                in.readFully(row);
                for (int x = 0; x < width; x++) {
                    out.setRGB(x, y, (row[3 * x] & 0xFF) << 16 | (row[3 * x + 1] & 0xFF) << 8 | row[3 * x + 2] & 0xFF);
                }
            }
            ByteArrayOutputStream png = new ByteArrayOutputStream();
            ImageIO.write(out, "png", png);
            return png.toByteArray();
        } catch (java.io.EOFException cutShort) {
            return new byte[0];
        }
    }

    private static int number(String word) {
        return word.matches("[0-9]{1,4}") ? Integer.parseInt(word) : -1;
    }

    private static String word(DataInputStream in) throws IOException {
        StringBuilder out = new StringBuilder();
        for (int c = in.read(); c >= 0 && out.length() < 16; c = in.read()) {
            if (Character.isWhitespace(c)) {
                return out.toString();
            }
            out.append((char) c);
        }
        return out.toString();
    }
}
