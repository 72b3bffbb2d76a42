#pragma once

namespace undisona {

// Frequencies that an engineer would look up.

/// How an end of a uniform beam is held across itself.
enum class BeamEnd { free, pinned, clamped };

/// beta L of its n-th mode of bending, n from 1, rigid motions left out (Blevins, Formulas for Natural Frequency and
/// Mode Shape, 1979, table 8-1).
double beamRoot(BeamEnd, BeamEnd, int n);

/// Hz, of a root, a length (m), a bending stiffness EI (N m2) and a mass per length (kg/m): slender, without shear.
double beamFrequency(double root, double length, double stiffness, double massPerLength);

/// Hz, of m by n half-waves on a rectangle of sides a and b (m), its edges all pinned, exact, or all clamped, by beam
/// functions (Warburton, The vibration of rectangular plates, 1954). D = E t3 / 12 (1 - nu2), N m; kg/m2.
double plateFrequency(bool clamped, double a, double b, int m, int n, double stiffness, double massPerArea);

} // namespace undisona
