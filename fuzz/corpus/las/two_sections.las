~V
VERS. 1.r: Old
~C
DEPT.M:
A.:
B.:
~A
1
d
~C
DEPT.M:
A.:
B.:
~A
1
2 3
4 5 6
