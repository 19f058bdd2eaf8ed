"""On whose word the figures stand: sources that several stages name."""

from squall.words import later

DARCY = later(
    "Darcy-Weisbach with Colebrook's factor (J. Inst. Civil Eng. 11, 1939) in turbulent, 64/Re in laminar flow"
)


DRIVE = later("The drive model of docs/method.md: affinity laws, speed counted in volts of back-EMF")


SUN = later(
    "NREL SPA sun position; Ineichen clear sky; Collares-Pereira and Rabl (1979) hours of the average day; Erbs (1982) diffuse; Hay and Davies (1980) onto the plane"
)
