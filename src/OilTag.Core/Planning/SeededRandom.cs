using System.Numerics;
using System.Runtime.Intrinsics;
using System.Runtime.InteropServices;

namespace OilTag.Core.Planning;

/// <summary>
/// A stream of random numbers that is the same for the same seed on every machine and version: xoshiro256**, its state filled by SplitMix64
/// (both published by Blackman and Vigna, public domain). Streams of neighbouring seeds do not run alike.
/// </summary>
[StructLayout(LayoutKind.Auto)]
public struct SeededRandom
{
    private const ulong Step = 0x9E3779B97F4A7C15;

    private ulong a;
    private ulong b;
    private ulong c;
    private ulong d;

    /// <summary>A stream.</summary>
    /// <param name="seed">Any number.</param>
    public SeededRandom(ulong seed)
    {
        a = Mix(seed);
        b = Mix(seed + Step);
        c = Mix(unchecked(seed + Step + Step));
        d = Mix(unchecked(seed + Step + Step + Step));
    }

    /// <summary>The next 64 bits.</summary>
    public ulong Bits()
    {
        var result = BitOperations.RotateLeft(b * 5, 7) * 9;
        var t = b << 17;
        c ^= a;
        d ^= b;
        b ^= c;
        a ^= d;
        c ^= t;
        d = BitOperations.RotateLeft(d, 45);
        return result;
    }

    /// <summary>A number from 0 up to and without 1, in steps of 2⁻⁵³.</summary>
    public double Unit() => (Bits() >> 11) * (1.0 / (1UL << 53));

    /// <summary>A whole number from 0 up to and without a limit.</summary>
    /// <param name="below">The limit, 1 or more.</param>
    public int Below(int below) => (int)(((Bits() >> 32) * (ulong)below) >> 32);

    /// <summary>A number that stands for an id, the same on every machine.</summary>
    public static ulong Key(string id)
    {
        ArgumentNullException.ThrowIfNull(id);
        // FNV-1a, 64 bits.
        var hash = 14695981039346656037UL;
        foreach (var letter in id)
        {
            hash = (hash ^ letter) * 1099511628211UL;
        }

        return Mix(hash);
    }

    /// <summary>The finish of SplitMix64: neighbouring numbers give unlike ones.</summary>
    public static ulong Mix(ulong z)
    {
        z += Step;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
        return z ^ (z >> 31);
    }

    /// <summary>Into how many equal parts <see cref="Unit(ulong, int)"/> cuts its range.</summary>
    internal const int Strata = 256;

    /// <summary>One of 256 numbers from 0 up to and without 1 that belong to a key: each lies in another 256th, in an order that the key makes.</summary>
    /// <param name="key">Any number.</param>
    /// <param name="which">Which of them, 0 to 255.</param>
    internal static double Unit(ulong key, int which)
    {
        // Turns of a multiplication by an odd number and a fold of the bits: each maps 0 to 255 onto itself.
        var k = (uint)key;
        var x = (uint)which;
        x = ((x * (k | 1)) + (k >> 8)) & 0xFF;
        x ^= x >> 4;
        x = ((x * ((k >> 16) | 1)) + (k >> 24)) & 0xFF;
        x ^= x >> 3;
        x = ((x * ((uint)(key >> 32) | 1)) + (uint)(key >> 40)) & 0xFF;
        return (x + ((Mix(key + (ulong)which) >> 11) * (1.0 / (1UL << 53)))) / Strata;
    }

    /// <summary>Four numbers at once, each as alone.</summary>
    internal static Vector256<ulong> Mix(Vector256<ulong> z)
    {
        z += Vector256.Create(Step);
        z = (z ^ (z >>> 30)) * Vector256.Create(0xBF58476D1CE4E5B9);
        z = (z ^ (z >>> 27)) * Vector256.Create(0x94D049BB133111EB);
        return z ^ (z >>> 31);
    }
}
