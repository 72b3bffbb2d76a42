#pragma once
#include "core/model/material.hpp"

namespace undisona {

/// Of a tightened bolted joint, whose plates do not part: N/m along it and across, N m/rad tilting and twisting.
struct BoltStiffness {
    double axial, shear, tilting, twisting;
};

/// By a bolt's diameter and the length that it clamps, both m and positive. The bolt is a bar of three quarters of its
/// full area, longer by 0.9 of its diameter for what gives way in head and nut (VDI 2230-1, 2003). What it clamps is
/// two cones of 30 degrees on either side of the half grip below a head of 1.5 diameters (Shigley and Mischke,
/// Mechanical Engineering Design, 1989, ch. 8). Shear and tilting are those of a hollow cylinder as stiff along itself
/// as these cones, with the bolt's diameter as its bore.
BoltStiffness stiffnessOfBolt(double diameter, double grip, const Material& bolt, const Material& clamped);

} // namespace undisona
