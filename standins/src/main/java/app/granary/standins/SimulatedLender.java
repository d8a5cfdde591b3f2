package app.granary.standins;

import app.granary.core.image.ImageName;
import app.granary.engine.host.ImageAt;
import app.granary.engine.host.Lender;
import app.granary.engine.host.LocalLender;
import app.granary.engine.progress.Rest;
import app.granary.engine.remote.RemoteFiles;
import app.granary.engine.remote.ServedFolder;
import java.io.IOException;
import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;

/** Lends the office's drives to its laptops: with the faults they have, and at the pace they work. */
final class SimulatedLender implements Lender {
    /** Whoever waits for one piece longer than this takes the line for dead. */
    private static final long LONGEST_HOLD_MILLIS = 5_000;

    private final StandInDrives drives;
    private final StandInFaults faults;
    private final Path rescueFiles;

    SimulatedLender(StandInDrives drives, StandInFaults faults, Path rescueFiles) {
        this.drives = drives;
        this.faults = faults;
        this.rescueFiles = rescueFiles;
    }

    @Override
    public Loan lend(ImageAt image, Use use) throws IOException {
        StandInDrive drive = drives.drive(image.destinationId());
        Path folder = drives.folder(drive);
        ServedFolder.Gate writing = () -> faults.requireWorking(drive.id(), true);
        ServedFolder served = new ServedFolder(folder, image.folder(), image.name(),
            use == Use.TO_WRITE ? Optional.of(writing) : Optional.empty());
        return new Lent(served, drive, folder.resolve(image.folder()).resolve(image.name()));
    }

    @Override
    public Loan lendRaw(String rawFileId) throws IOException {
        return new LocalLender.Served(new ServedFolder(rescueFiles, "", rawFileId, Optional.empty()),
            "the office's rescue files");
    }

    private final class Lent implements Loan, InvocationHandler {
        private final ServedFolder served;
        private final StandInDrive drive;
        private final Path image;
        private final RemoteFiles files;
        private final long beganNanos = System.nanoTime();
        private long carriedBytes;

        Lent(ServedFolder served, StandInDrive drive, Path image) {
            this.served = served;
            this.drive = drive;
            this.image = image;
            this.files = (RemoteFiles) Proxy.newProxyInstance(RemoteFiles.class.getClassLoader(), new Class<?>[] {RemoteFiles.class}, this);
        }

        @Override
        public Object invoke(Object self, Method call, Object[] arguments) throws Throwable {
            faults.requireWorking(drive.id(), false);
            try {
                Object out = call.invoke(served, arguments);
                if (call.getName().equals("write")) {
                    hold(((byte[]) arguments[2]).length);
                } else if (call.getName().equals("read")) {
                    hold(((byte[]) out).length);
                }
                return out;
            } catch (InvocationTargetException failed) {
                throw failed.getCause();
            }
        }

        /** As long as so many of the office's bytes take on the drive's own link. */
        private synchronized void hold(int bytes) throws IOException {
            carriedBytes += bytes * scale().factor();
            double due = (double) carriedBytes / drives.writeRate(drive);
            long millis = (long) (due * 1000 - (System.nanoTime() - beganNanos) / 1e6);
            if (millis > 0) {
                Rest.millis(Math.min(LONGEST_HOLD_MILLIS, millis));
            }
        }

        private Scale scale() throws IOException {
            Path partial = image.resolveSibling(image.getFileName() + ImageName.PARTIAL);
            return StandInDrives.scaleOf(Files.exists(partial) ? partial : image);
        }

        @Override
        public RemoteFiles files() {
            return files;
        }

        @Override
        public String images() {
            return served.images();
        }

        @Override
        public String location() {
            return drive.name() + ", folder " + image.getFileName();
        }

        @Override
        public void close() throws IOException {
            served.close();
            if (faults.unplugged(drive.id())) {
                faults.tearOff(image.resolveSibling(image.getFileName() + ImageName.PARTIAL));
            }
        }
    }
}
