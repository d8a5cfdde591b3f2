package app.granary.server.account;

import app.granary.server.home.FreeRoom;
import app.granary.server.problem.Problems;
import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.springframework.http.HttpStatus;
import org.springframework.web.filter.OncePerRequestFilter;
import org.springframework.web.util.UrlPathHelper;

/** While there is no room to keep it, no change is begun; what makes room, stops work or signs in and out still is. */
final class RoomFirst extends OncePerRequestFilter {
    private static final Set<String> READING = Set.of("GET", "HEAD");
    private static final List<String> STILL = List.of("/api/v1/session", "/api/v1/unfinished/", "/api/v1/retention/releases",
        "/api/v1/runs/");
    private final FreeRoom room;
    private final Problems problems;

    RoomFirst(FreeRoom room, Problems problems) {
        this.room = room;
        this.problems = problems;
    }

    @Override
    protected void doFilterInternal(HttpServletRequest request, HttpServletResponse response, FilterChain chain)
        throws ServletException, IOException {
        Optional<String> trouble = READING.contains(request.getMethod())
            || STILL.stream().anyMatch(UrlPathHelper.defaultInstance.getPathWithinApplication(request)::startsWith) ? Optional.empty()
                : room.trouble();
        if (trouble.isPresent()) {
            problems.write(response, HttpStatus.INSUFFICIENT_STORAGE, "no-room", trouble.get());
        } else {
            chain.doFilter(request, response);
        }
    }
}
