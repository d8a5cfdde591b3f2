package app.granary.engine.progress;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import org.junit.jupiter.api.Test;

class OrderedWorkTest {
    @Test
    void resultsComeInTheOrderTheTasksWereGiven() throws IOException {
        try (OrderedWork<Integer> work = new OrderedWork<>("test")) {
            int taken = 0;
            for (int i = 0; i < 500; i++) {
                int number = i;
                if (work.underWay() == work.slots()) {
                    assertEquals(taken++, work.takeOldest());
                }
                work.submit(() -> {
                    if (number % 7 == 0) {
                        Thread.sleep(1);
                    }
                    return number;
                });
                assertTrue(work.underWay() <= work.slots());
            }
            while (work.underWay() > 0) {
                assertEquals(taken++, work.takeOldest());
            }
            assertEquals(500, taken);
        }
    }

    @Test
    void failuresKeepTheirKind() {
        try (OrderedWork<Integer> work = new OrderedWork<>("test")) {
            work.submit(() -> {
                throw new IOException("read failed");
            });
            work.submit(() -> {
                throw new IllegalArgumentException("mistake");
            });
            assertEquals("read failed", assertThrows(IOException.class, work::takeOldest).getMessage());
            assertEquals("mistake", assertThrows(IllegalArgumentException.class, work::takeOldest).getMessage());
        }
    }
}
