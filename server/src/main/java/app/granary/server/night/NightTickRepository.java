package app.granary.server.night;

import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.springframework.data.jpa.repository.JpaRepository;

interface NightTickRepository extends JpaRepository<NightTick, Long> {
    List<NightTick> findByNight(LocalDate night);

    Optional<NightTick> findByNightAndPlanIdAndItem(LocalDate night, UUID planId, String item);
}
