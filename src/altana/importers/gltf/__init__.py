"""glTF 2.0 and its binary form, read after the specification of the Khronos Group."""
