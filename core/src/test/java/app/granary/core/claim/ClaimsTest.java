package app.granary.core.claim;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import app.granary.core.claim.DeviceClaim.Use;
import app.granary.core.disk.DiskIdentity;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SplittableRandom;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

class ClaimsTest {
    private static final Device DISK = Device.of(new DiskIdentity("Halden S2", "22-HS-1", 500), "d", "DATUM disk 1");
    private static final Device DRIVE = Device.named("cairn", "CAIRN");

    @Test
    void onlyReadersAreBesideEachOther() {
        for (Use one : Use.values()) {
            for (Use other : Use.values()) {
                assertEquals(one == Use.READ && other == Use.READ, new DeviceClaim(DISK, one).besides(new DeviceClaim(DISK, other)), one
                    + " " + other);
                assertTrue(new DeviceClaim(DISK, one).besides(new DeviceClaim(DRIVE, other)));
            }
        }
    }

    @Test
    void aDeviceIsItsSerialByWhateverNameAndAnotherWithoutOne() {
        assertEquals(DISK.key(), Device.ofSerial(" 22-HS-1", "sdb").key());
        assertTrue(!Device.of(new DiskIdentity("", "", 1), "22-HS-1", "x").key().equals(DISK.key()),
            "a name that looks like a serial is none");
    }

    @Test
    void allAreTakenOrNoneAndWhoIsInTheWayIsNamed() {
        Claims<String> claims = new Claims<>();
        List<DeviceClaim> capture = List.of(DeviceClaim.read(DISK), DeviceClaim.store(DRIVE));
        assertEquals(Optional.empty(), claims.take("capture", capture, List.of()));
        assertThrows(IllegalStateException.class, () -> claims.take("capture", capture, List.of()));
        Device spare = Device.ofSerial("S-9", "Spare 2");
        assertEquals(Optional.of(new Claims.Blocked<>(DRIVE, "capture", true)), claims.take("restore", List.of(DeviceClaim.write(spare),
            DeviceClaim.store(DRIVE)), List.of()));
        assertEquals(Optional.empty(), claims.take("prepare", List.of(DeviceClaim.write(spare)), List.of()),
            "what could not be taken whole holds nothing");
        claims.free("capture");
        claims.free("capture");
        assertEquals(Optional.of(new Claims.Blocked<>(DISK, "restore", false)),
            claims.take("check", List.of(DeviceClaim.read(DISK)), List.of(new Claims.Ahead<>("restore",
                List.of(DeviceClaim.write(DISK))))));
    }

    private record Wish(int who, List<DeviceClaim> claims) {
    }

    /**
     * Random runs on random devices in random orders, started as the queue starts them: there are never two writers on a device nor a
     * reader beside one, nobody who came later gets a device that one who waits wants for itself, and in the end all have had their turn.
     */
    @Test
    void neverTwoWritersNeverAReaderBesideAWriterAndNobodyWaitsForEver() {
        for (int history = 0; history < 2_000; history++) {
            SplittableRandom random = new SplittableRandom(history);
            Claims<Integer> claims = new Claims<>();
            List<Wish> waiting = new ArrayList<>();
            Map<Integer, List<DeviceClaim>> running = new TreeMap<>();
            int came = 0;
            int begun = 0;
            int devices = 1 + random.nextInt(4);
            for (int step = 0; step < 60 || !waiting.isEmpty() || !running.isEmpty(); step++) {
                if (step < 60 && random.nextInt(3) > 0) {
                    List<DeviceClaim> wanted = new ArrayList<>();
                    for (int i = random.nextInt(3); i >= 0; i--) {
                        wanted.add(new DeviceClaim(Device.ofSerial("S-" + random.nextInt(devices), "D"), Use.values()[random.nextInt(3)]));
                    }
                    waiting.add(new Wish(came++, wanted));
                } else if (!running.isEmpty()) {
                    int ends = List.copyOf(running.keySet()).get(random.nextInt(running.size()));
                    running.remove(ends);
                    claims.free(ends);
                }
                List<Claims.Ahead<Integer>> ahead = new ArrayList<>();
                for (Wish wish : List.copyOf(waiting)) {
                    if (claims.take(wish.who, wish.claims, ahead).isEmpty()) {
                        waiting.remove(wish);
                        running.put(wish.who, wish.claims);
                        begun++;
                        requireApart(running);
                        waiting.stream().filter(first -> first.who < wish.who).forEach(first -> assertTrue(first.claims.stream()
                            .allMatch(a -> wish.claims.stream().allMatch(a::besides)), wish + " before " + first));
                    } else {
                        ahead.add(new Claims.Ahead<>(wish.who, wish.claims));
                    }
                }
                assertTrue(waiting.isEmpty() || !running.isEmpty(), "somebody waits and nobody is under way");
            }
            assertEquals(came, begun);
            assertEquals(List.of(), claims.held());
        }
    }

    private static void requireApart(Map<Integer, List<DeviceClaim>> running) {
        running.forEach((one, ones) -> running.forEach((other, others) -> {
            if (one < other) {
                ones.forEach(a -> others.forEach(b -> assertTrue(!a.device().equals(b.device()) || a.use() == Use.READ
                    && b.use() == Use.READ, a + " beside " + b)));
            }
        }));
    }
}
