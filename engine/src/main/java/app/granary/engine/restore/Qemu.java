package app.granary.engine.restore;

import app.granary.core.fault.Fault;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/** The machine made of software that disks are started in: QEMU, where it is installed. */
final class Qemu {
    static final String PROGRAM = "qemu-system-x86_64";
    private static final List<String> UEFI_FIRMWARE = List.of("/usr/share/OVMF/OVMF_CODE.fd", "/usr/share/ovmf/OVMF.fd");

    private Qemu() {
    }

    /** Where the program is; empty where it is not installed. */
    static Optional<Path> program() {
        return Arrays.stream(System.getenv().getOrDefault("PATH", "/usr/bin").split(":")).map(folder -> Path.of(folder, PROGRAM))
            .filter(Files::isExecutable).findFirst();
    }

    /**
     * The command of a machine that has nothing yet but memory, a screen that is shown nowhere, and a monitor on its standard input.
     *
     * @param instead what a person can do where it cannot be had: the end of a sentence, behind "or"
     * @throws app.granary.core.fault.FaultException when the program, or the firmware, is not installed
     */
    static List<String> machine(int memoryMib, boolean uefi, String instead) throws IOException {
        Path program = program().orElseThrow(() -> lacking(PROGRAM + " is not installed here, so the disk cannot be started. Install the "
            + "package qemu-system-x86, or " + instead + "."));
        List<String> out = new ArrayList<>(List.of(program.toString(), "-nodefaults", "-m", "" + memoryMib, "-vga", "std", "-monitor",
            "stdio"));
        if (Acceleration.isQuick()) {
            out.add("-enable-kvm");
        }
        if (uefi) {
            out.addAll(List.of("-bios", UEFI_FIRMWARE.stream().filter(each -> Files.exists(Path.of(each))).findFirst()
                .orElseThrow(() -> lacking("The disk needs UEFI firmware to start, and none is installed here. Install the package ovmf, "
                    + "or " + instead + "."))));
        }
        return out;
    }

    private static IOException lacking(String sentence) {
        return Fault.of(Fault.Kind.UNSUPPORTED, PROGRAM, sentence).asException();
    }

    /** As a value among an option's, where a comma would begin the next. */
    static String quoted(String value) {
        return value.replace(",", ",,");
    }
}
