package app.granary.server.office;

import org.springframework.data.jpa.repository.JpaRepository;

interface OfficeHoursRepository extends JpaRepository<OfficeHours, Integer> {
}
