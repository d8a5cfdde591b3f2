package app.granary.server.account;

import app.granary.server.problem.BodyTooLong;
import app.granary.server.problem.Problems;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ReadListener;
import jakarta.servlet.ServletException;
import jakarta.servlet.ServletInputStream;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletRequestWrapper;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.InterruptedIOException;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.util.UrlPathHelper;

/**
 * How much may be sent, for how long, and by how many at once. A body holds a thread and memory as long as it comes in; without limits two
 * dozen large ones fill the memory, and some hundred slow ones keep the pages from being answered. Those who have not signed in share a
 * small part of it, so that they cannot take the rest. It stands behind the question who may ask: a body that is refused is not read.
 */
final class BodyLimits extends OncePerRequestFilter {
    private static final String REPORTS = "/api/v1/imports/";
    private static final long MOST_BYTES = 1_000_000;
    /** Above what an inventory is taken to, so that it is refused there with its own sentence. */
    private static final long MOST_OF_REPORT = 36_000_000;
    private static final long MOST_OF_STRANGER = 4_096;
    private static final int STRANGERS = 16;
    private static final int STRANGERS_OF_ONE_ADDRESS = 8;
    private static final int REPORTS_AT_ONCE = 2;
    private static final int OTHERS = 32;
    private static final long WAIT_SECONDS = 2;
    private static final long STRANGER_SECONDS = 10;
    private static final long OTHER_SECONDS = 60;

    private final Semaphore strangers = new Semaphore(STRANGERS);
    private final Semaphore reports = new Semaphore(REPORTS_AT_ONCE, true);
    private final Semaphore others = new Semaphore(OTHERS, true);
    private final Map<String, Integer> byAddress = new ConcurrentHashMap<>();
    private final Problems problems;

    BodyLimits(Problems problems) {
        this.problems = problems;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
        throws ServletException, IOException {
        long length = request.getContentLengthLong();
        if (length == 0 || length < 0 && request.getHeader("Transfer-Encoding") == null) {
            chain.doFilter(request, response);
            return;
        }
        Authentication who = SecurityContextHolder.getContext().getAuthentication();
        boolean stranger = who == null || !who.isAuthenticated() || who.getName().equals("anonymousUser");
        boolean report = !stranger && UrlPathHelper.defaultInstance.getPathWithinApplication(request).startsWith(REPORTS);
        long most = stranger ? MOST_OF_STRANGER : report ? MOST_OF_REPORT : MOST_BYTES;
        if (length > most) {
            refuse(response, HttpStatus.PAYLOAD_TOO_LARGE, "too-long",
                "That is more than Granary takes at once here: at most " + most + " bytes. Send less.");
            return;
        }
        Semaphore room = stranger ? strangers : report ? reports : others;
        if (!enter(room, stranger, request.getRemoteAddr())) {
            refuse(response, HttpStatus.SERVICE_UNAVAILABLE, "busy",
                "Too much is being sent at once just now. Try again in a moment; nothing was changed.");
            return;
        }
        try {
            chain.doFilter(
                new Limited(request, most, System.nanoTime() + TimeUnit.SECONDS.toNanos(stranger ? STRANGER_SECONDS : OTHER_SECONDS)),
                response);
        } finally {
            room.release();
            if (stranger) {
                byAddress.computeIfPresent(request.getRemoteAddr(), (address, count) -> count == 1 ? null : count - 1);
            }
        }
    }

    private boolean enter(Semaphore room, boolean stranger, String address) {
        if (stranger && byAddress.merge(address, 1, Integer::sum) > STRANGERS_OF_ONE_ADDRESS) {
            byAddress.computeIfPresent(address, (key, count) -> count == 1 ? null : count - 1);
            return false;
        }
        try {
            boolean entered = stranger ? room.tryAcquire() : room.tryAcquire(WAIT_SECONDS, TimeUnit.SECONDS);
            if (!entered && stranger) {
                byAddress.computeIfPresent(address, (key, count) -> count == 1 ? null : count - 1);
            }
            return entered;
        } catch (InterruptedException stopped) {
            Thread.currentThread().interrupt();
            return false;
        }
    }

    /** What comes after it is not waited for. */
    private void refuse(HttpServletResponse response, HttpStatus status, String type, String sentence) throws IOException {
        response.setHeader("Connection", "close");
        response.setHeader("Retry-After", "" + WAIT_SECONDS);
        problems.write(response, status, type, sentence);
    }

    /** Ends when more comes, or it takes too long. */
    private static final class Limited extends HttpServletRequestWrapper {
        private final long most;
        private final long untilNanos;
        private ServletInputStream in;

        Limited(HttpServletRequest request, long most, long untilNanos) {
            super(request);
            this.most = most;
            this.untilNanos = untilNanos;
        }

        @Override
        public ServletInputStream getInputStream() throws IOException {
            if (in == null) {
                in = new Counted(super.getInputStream(), most, untilNanos);
            }
            return in;
        }
    }

    private static final class Counted extends ServletInputStream {
        private final ServletInputStream from;
        private final long most;
        private final long untilNanos;
        private long count;

        Counted(ServletInputStream from, long most, long untilNanos) {
            this.from = from;
            this.most = most;
            this.untilNanos = untilNanos;
        }

        private int counted(int bytes) throws IOException {
            count += Math.max(0, bytes);
            if (count > most) {
                throw new BodyTooLong(most);
            }
            if (System.nanoTime() > untilNanos) {
                throw new InterruptedIOException("it took too long to send");
            }
            return bytes;
        }

        @Override
        public int read() throws IOException {
            int one = from.read();
            counted(one < 0 ? 0 : 1);
            return one;
        }

        @Override
        public int read(byte[] into, int offset, int length) throws IOException {
            return counted(from.read(into, offset, length));
        }

        @Override
        public boolean isFinished() {
            return from.isFinished();
        }

        @Override
        public boolean isReady() {
            return from.isReady();
        }

        @Override
        public void setReadListener(ReadListener listener) {
            from.setReadListener(listener);
        }
    }
}
